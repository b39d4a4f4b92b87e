/** Of the bars over the editor and the output, in pixels, so that they stand in one line. */
export const barHeight = 47;
