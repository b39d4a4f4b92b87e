/** Vectors of words by their stems, of length 1 each. */
export const wordVectors: ReadonlyMap<string, readonly number[]> = new Map();
