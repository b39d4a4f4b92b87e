/** One document as it was found in a file: its JSON text, or why there is none. */
export interface FoundRecord {
  /** The 1-based line on which it begins. */
  readonly line: number;
  readonly text?: string;
  readonly problem?: string;
  /** What was taken otherwise than one might expect, and why. */
  readonly warnings?: readonly { readonly path: string; readonly reason: string }[];
}

/** The file ended, or went wrong, in a way that makes all of it doubtful. */
export class BrokenFile extends Error {}

/** Takes text in pieces, gives back the records that are complete. */
export interface RecordReader {
  push(text: string): FoundRecord[] | Promise<FoundRecord[]>;
  /** @throws BrokenFile where the file is not complete */
  end(): FoundRecord[] | Promise<FoundRecord[]>;
}

/** Characters of one record. A document may have fewer; beyond this it is not even kept to be refused. */
export const largestRecord = 64 * 1024 * 1024;
