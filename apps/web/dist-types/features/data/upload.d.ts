import type { ImportProgress, ImportResult, OnDuplicate } from '@zesty-sieve/contract';
export interface UploadOptions {
  readonly collection: string;
  readonly file: File;
  readonly onDuplicate: OnDuplicate;
  readonly onProgress: (progress: ImportProgress) => void;
  readonly signal: AbortSignal;
}
/** The upload was refused or cut off, with what the server said. */
export declare class UploadProblem extends Error {}
/**
 * Loads a file into a collection, telling how far it has come.
 * @throws UploadProblem
 */
export declare function upload({ collection, file, onDuplicate, onProgress, signal }: UploadOptions): Promise<ImportResult>;
