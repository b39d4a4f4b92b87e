import { askRows, type Refusal } from './asking.ts';

/** Rows of one file: they are put together in the page. */
const mostRows = 100_000;
/** How often, and how many seconds at most, a server is waited for that has too much to do. */
const mostWaits = 10;
const longestWait = 10;

export type Fetched =
  | {
      readonly documents: readonly unknown[];
      /** In words, where they may not be all, or not those of one moment. */
      readonly note?: string;
    }
  | { readonly refusal: Refusal };

/** All rows of an answer, part after part as the server gives them, each from where the last one ended. */
export async function fetchAllRows(name: string, address: string, onRows: (rows: number) => void, signal: AbortSignal): Promise<Fetched> {
  let documents: readonly unknown[] = [];
  let first: string | undefined;
  let next: string | undefined = address;
  let waits = 0;
  while (next !== undefined && documents.length < mostRows) {
    const told = await askRows(name, next, signal);
    if ('refusal' in told) {
      const { retryAfter } = told.refusal;
      if (retryAfter === undefined || signal.aborted || ++waits > mostWaits) return told;
      await new Promise((resolve) => setTimeout(resolve, Math.min(longestWait, retryAfter) * 1_000));
      continue;
    }
    waits = 0;
    documents = [...documents, ...told.value.documents];
    first ??= told.value.tag;
    next = told.value.next;
    onRows(documents.length);
  }
  if (next !== undefined) return { documents, note: `These are the first ${documents.length.toLocaleString('en')} rows; there are more.` };
  return first !== undefined && (await hasMoved(name, address, first, signal))
    ? { documents, note: 'Rows changed while they were fetched: some may be there twice, or not at all. Fetch them again.' }
    : { documents };
}

/** Whether the first rows are others by now. */
async function hasMoved(name: string, address: string, tag: string, signal: AbortSignal): Promise<boolean> {
  const again = await askRows(name, address, signal);
  return 'value' in again && again.value.tag !== tag;
}

/** Gives a text to be saved as a file. */
export function saveText(text: string, name: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text]));
  link.download = name;
  link.click();
  // Some browsers begin to read it later.
  setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
}
