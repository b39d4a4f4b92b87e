import type { ImportProgress, ImportResult, OnDuplicate, Problem } from '@zesty-sieve/contract';
import { contentTypes, isZipped } from './fileKind.ts';
import { optionsText, type LoadOptions } from './usePreview.ts';

export interface UploadOptions {
  readonly collection: string;
  readonly file: File;
  readonly onDuplicate: OnDuplicate;
  readonly options: LoadOptions;
  readonly onProgress: (progress: ImportProgress) => void;
  readonly signal: AbortSignal;
}

/** The upload was refused or cut off, with what the server said. */
export class UploadProblem extends Error {}

const askEveryMs = 250;

/**
 * Loads a file into a collection, telling how far it has come. A browser shows nothing of an answer before the file
 * is sent, so the progress is asked for beside.
 * @throws UploadProblem
 */
export async function upload({ collection, file, onDuplicate, options, onProgress, signal }: UploadOptions): Promise<ImportResult> {
  const track = Math.random().toString(36).slice(2);
  const asking = setInterval(() => {
    void fetch(`/api/imports/${track}`, { signal })
      .then(async (response) => response.ok && onProgress((await response.json()) as ImportProgress))
      .catch(() => undefined);
  }, askEveryMs);
  try {
    const parameters = new URLSearchParams({ ...optionsText(options), onDuplicate, track });
    const response = await fetch(`/api/collections/${encodeURIComponent(collection)}/import?${parameters}`, {
      method: 'POST',
      headers: { 'content-type': contentTypes[options.format], ...(isZipped(file) && { 'content-encoding': 'gzip' }) },
      body: file,
      signal,
    });
    const answer = (await response.json().catch(() => ({}))) as ImportResult & Partial<Problem>;
    if (!response.ok) throw new UploadProblem(answer.detail ?? 'The file was not taken.');
    return answer;
  } catch (error) {
    if (error instanceof UploadProblem) throw error;
    throw new UploadProblem(
      'The connection was lost before the server answered. A file is stored whole or not at all: look which before you load it again.',
    );
  } finally {
    clearInterval(asking);
  }
}
