/** What a text is for: rows out of it, or documents changed by it. */
export type Purpose = 'pipeline' | 'change';
