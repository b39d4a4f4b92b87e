import { apiUrl } from '../../../api/apiUrl.ts';
import { fetchJson } from '../../../api/fetchJson.ts';

/** What is edited: a document that is there, or new ones. */
export type Editing =
  | { readonly kind: 'edit'; readonly identity: string }
  | { readonly kind: 'list'; readonly identities: readonly string[] }
  | { readonly kind: 'add'; readonly text: string };

/** What is stored, and its version where it has one. */
export interface Loaded {
  readonly value: unknown;
  readonly etag: string | null;
}

export async function fetchDocument(collection: string, identity: string): Promise<Loaded> {
  const { value, headers } = await fetchJson<unknown>(apiUrl('collections', collection, 'documents', identity));
  return { value, etag: headers.get('etag') };
}

export async function fetchDocuments(collection: string, identities: readonly string[]): Promise<Loaded> {
  const { value } = await fetchJson<{ documents: unknown[] }>(apiUrl('collections', collection, 'documents', 'read'), {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ identities }),
  });
  return { value: value.documents, etag: null };
}

/** What is stored now of what is edited. */
export function fetchEdited(collection: string, editing: Exclude<Editing, { kind: 'add' }>): Promise<Loaded> {
  return editing.kind === 'edit' ? fetchDocument(collection, editing.identity) : fetchDocuments(collection, editing.identities);
}

/** Tells what was fetched, or why it was not; to call what comes back is to want it no longer, since another one has been opened. */
export function fetchedOnce(loading: Promise<Loaded>, onLoaded: (loaded: Loaded) => void, onFailed: (words: string) => void): () => void {
  let isWanted = true;
  void loading.then(
    (loaded) => isWanted && onLoaded(loaded),
    (error: Error) => isWanted && onFailed(error.message),
  );
  return () => {
    isWanted = false;
  };
}
