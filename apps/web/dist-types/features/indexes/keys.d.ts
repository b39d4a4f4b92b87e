/** Cuts keys at the commas between them: those inside brackets and texts belong to a key. */
export declare function splitKeys(text: string): string[];
