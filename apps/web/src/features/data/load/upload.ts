import { apiUrl } from '../../../api/apiUrl.ts';
import type { ImportProgress, ImportResult, OnDuplicate, Problem } from '@zesty-sieve/contract';
import { endTracked } from '../../../api/work.ts';
import { contentTypes, isZipped } from './fileKind.ts';
import { optionsText, type LoadOptions } from './usePreview.ts';

export interface UploadOptions {
  readonly collection: string;
  readonly file: File;
  readonly onDuplicate: OnDuplicate;
  readonly options: LoadOptions;
  readonly onProgress: (progress: ImportProgress) => void;
  readonly signal: AbortSignal;
  /** The name by which the server knows it. */
  readonly track: string;
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
  const { signal, onProgress, track } = options;
  const asking = setInterval(() => {
    void progressOf(track).then((progress) => progress && onProgress(progress));
  }, askEveryMs);
  try {
    return await sent(options).catch(async (error: Error) => {
      if (error instanceof UploadProblem || signal.aborted || !(await isBack(signal))) throw error;
      return sent(options);
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

async function progressOf(track: string): Promise<ImportProgress | undefined> {
  const response = await fetch(apiUrl('imports', track)).catch(() => undefined);
  return response?.ok ? ((await response.json()) as ImportProgress) : undefined;
}

/** Why a file is not sent any further: the server knows that it is to be left, and has stored nothing; or it does not answer. */
export type Given = 'cancelled' | 'lost';

/**
 * Asks the server to leave a file. One that is still on its way is not sent any further; of one that is being stored the answer to it
 * tells what became of it.
 */
export async function leaveUpload(track: string, abort: AbortController, isUnderWay: () => boolean): Promise<void> {
  const said = await endTracked(track, isUnderWay);
  if (said === 'lost') abort.abort('lost' satisfies Given);
  if (said === 'asked' && (await progressOf(track))?.phase === 'receiving') abort.abort('cancelled' satisfies Given);
}

async function sent({ collection, file, onDuplicate, options, signal, track }: UploadOptions): Promise<ImportResult> {
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
