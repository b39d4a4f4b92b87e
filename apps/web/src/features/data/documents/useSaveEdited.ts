import { useAddDocumentsMutation, usePutDocumentMutation, usePutDocumentsMutation } from '../../../api/documents.ts';
import { problemText } from '../../../api/problems.ts';
import { counted } from '../../../parts/numbers.ts';
import { fetchDocument, fetchDocuments, type Editing, type Loaded } from './edited.ts';

interface ToSave {
  readonly editing: Editing;
  readonly text: string;
  /** What the text says. */
  readonly value: unknown;
  readonly etag: string | null;
  /** What was opened, to be compared with what is stored now; undefined where that has been seen. */
  readonly opened: Loaded | null | undefined;
}

/** What came of it: it is stored, someone else has changed it meanwhile, or it cannot be. */
type Saved = { readonly told: string } | { readonly theirs: Loaded } | { readonly problem: string };

/** Saves what was edited: never over what someone else has made of it unseen. */
export function useSaveEdited(collection: string) {
  const [put, putting] = usePutDocumentMutation();
  const [add, adding] = useAddDocumentsMutation();
  const [putAll, puttingAll] = usePutDocumentsMutation();
  const saveEdited = async ({ editing, text, value, etag, opened }: ToSave): Promise<Saved> => {
    if (editing.kind === 'list' && opened !== undefined) {
      // A list has no ETag: what is stored now is compared with what was opened.
      const now = await fetchDocuments(collection, editing.identities).catch((error: Error) => error.message);
      if (typeof now === 'string') return { problem: now };
      if (JSON.stringify(now.value) !== JSON.stringify(opened?.value)) return { theirs: now };
    }
    // Kept as it was written where it is new; an edited one is written compactly, as it was before.
    const body = JSON.stringify(value);
    const done =
      editing.kind === 'add'
        ? await add({ collection, body: text })
        : editing.kind === 'list'
          ? await putAll({ collection, body })
          : await put({ collection, identity: editing.identity, body, etag });
    if (!('error' in done) || done.error === undefined)
      return { told: doneWords(editing, done.data as { inserted?: number; replaced?: number }) };
    if (editing.kind === 'edit' && (done.error as { status?: unknown }).status === 412) {
      return await fetchDocument(collection, editing.identity).then(
        (theirs) => ({ theirs }),
        (error: Error) => ({ problem: error.message }),
      );
    }
    return { problem: problemText(done.error) };
  };
  return { saveEdited, isBusy: putting.isLoading || adding.isLoading || puttingAll.isLoading };
}

function doneWords(editing: Editing, { inserted = 0, replaced = 0 }: { inserted?: number; replaced?: number }): string {
  if (editing.kind === 'add') return `${counted(inserted, 'document')} added.`;
  if (editing.kind === 'edit') return `${editing.identity} saved.`;
  return `${counted(replaced, 'document')} replaced${inserted > 0 ? `, ${inserted} added` : ''}.`;
}
