import { apiUrl } from '../../../api/apiUrl.ts';
import { problemText } from '../../../api/problems.ts';

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
  const response = await fetch(apiUrl('collections', collection, 'documents', identity));
  const value = (await response.json()) as unknown;
  if (!response.ok) throw new Error(problemText({ data: value }));
  return { value, etag: response.headers.get('etag') };
}

export async function fetchDocuments(collection: string, identities: readonly string[]): Promise<Loaded> {
  const response = await fetch(apiUrl('collections', collection, 'documents', 'read'), {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ identities }),
  });
  const found = (await response.json()) as { documents: unknown[] };
  if (!response.ok) throw new Error(problemText({ data: found }));
  return { value: found.documents, etag: null };
}

/** What is stored now of what is edited. */
export function fetchEdited(collection: string, editing: Exclude<Editing, { kind: 'add' }>): Promise<Loaded> {
  return editing.kind === 'edit' ? fetchDocument(collection, editing.identity) : fetchDocuments(collection, editing.identities);
}
