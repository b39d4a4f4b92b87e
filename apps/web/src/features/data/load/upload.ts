import { apiUrl } from '../../../api/apiUrl.ts';
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
/** How long a server that has gone away amid an upload is waited for, and how often it is looked for. */
const awayMs = 60_000;
const lookMs = 1_000;

/**
 * Loads a file into a collection, telling how far it has come. A browser shows nothing of an answer before the file
 * is sent, so the progress is asked for beside. Where the connection is lost, it is sent once more when the server is back, under the same
 * key: what was stored the first time is not stored again.
 * @throws UploadProblem
 */
export async function upload(options: UploadOptions): Promise<ImportResult> {
  const { signal, onProgress } = options;
  const track = Math.random().toString(36).slice(2);
  const asking = setInterval(() => {
    void fetch(apiUrl('imports', track), { signal })
      .then(async (response) => response.ok && onProgress((await response.json()) as ImportProgress))
      .catch(() => undefined);
  }, askEveryMs);
  try {
    return await sent(options, track).catch(async (error: Error) => {
      if (error instanceof UploadProblem || signal.aborted || !(await isBack(signal))) throw error;
      return sent(options, track);
    });
  } catch (error) {
    if (error instanceof UploadProblem) throw error;
    throw new UploadProblem(
      'The connection was lost before the server answered. A file is stored whole or not at all: look which before you load it again.',
    );
  } finally {
    clearInterval(asking);
  }
}

async function sent({ collection, file, onDuplicate, options, signal }: UploadOptions, track: string): Promise<ImportResult> {
  const parameters = new URLSearchParams({ ...optionsText(options), onDuplicate, track });
  const response = await fetch(`${apiUrl('collections', collection, 'import')}?${parameters}`, {
    method: 'POST',
    headers: {
      'content-type': contentTypes[options.format],
      'idempotency-key': `upload ${track}`,
      ...(isZipped(file) && { 'content-encoding': 'gzip' }),
    },
    body: file,
    signal,
  });
  const answer = (await response.json().catch(() => ({}))) as ImportResult & Partial<Problem>;
  if (!response.ok) throw new UploadProblem(answer.detail ?? 'The file was not taken.');
  return answer;
}

async function isBack(signal: AbortSignal): Promise<boolean> {
  for (let waitedMs = 0; waitedMs < awayMs && !signal.aborted; waitedMs += lookMs) {
    await new Promise((resolve) => setTimeout(resolve, lookMs));
    const isThere = await fetch(apiUrl('collections'), { signal }).then(
      (response) => response.ok,
      () => false,
    );
    if (isThere) return true;
  }
  return false;
}
