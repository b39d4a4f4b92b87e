import { instantText } from '../../../parts/dates.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { ChangeInfo, CollectionInfo } from '@zesty-sieve/contract';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useChangedDocumentsQuery, useChangesQuery, useLazyChangedDocumentsQuery, useUndoChangeMutation } from '../../../api/changes.ts';
import { problemText } from '../../../api/problems.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { codeFont } from '../../../app/theme.ts';
import { DiffView } from '../../../parts/DiffView.tsx';
import { identityReader } from '../../../parts/documents/identity.ts';
import { count, counted } from '../../../parts/numbers.ts';
import { opened } from '../../../state/bench/benchSlice.ts';

const pageSize = 10;
/** Identities that a pipeline is given at most. */
const identitiesAsked = 5_000;

/** The changes that were made to a collection, the last one first. */
export function HistoryPanel({ collection, open }: { collection: CollectionInfo; open: string | null }) {
  const { data: changes, error } = useChangesQuery(collection.name, { refetchOnMountOrArgChange: true });
  if (error) return <Box sx={{ p: 2.5, color: 'error.main' }}>{problemText(error)}</Box>;
  if (changes?.length === 0)
    return (
      <Box sx={{ p: 2.5, color: 'text.secondary', maxWidth: 560 }}>
        No change of many documents has been made here yet. Each that is made is kept with what it replaced, and can be taken back while
        nothing else has touched those documents.
      </Box>
    );
  return (
    <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto' }} tabIndex={0} aria-label="Changes that were made">
      {changes?.map((change) => (
        <ChangeEntry key={change.id} change={change} identity={collection.identity} isOpen={change.id === open} />
      ))}
    </Box>
  );
}

function stateOf({ undoneAt, kept, changedSince }: ChangeInfo): string {
  if (undoneAt !== null) return `taken back ${instantText(undoneAt)}`;
  if (!kept) return 'what it replaced is no longer kept';
  if (changedSince > 0) return `${counted(changedSince, 'of its documents has', 'of its documents have')} changed since`;
  return 'can be taken back';
}

function ChangeEntry({ change, identity, isOpen }: { change: ChangeInfo; identity: string; isOpen: boolean }) {
  const [isShown, setShown] = useState(isOpen);
  const [offset, setOffset] = useState(0);
  const [undo, { isLoading }] = useUndoChangeMutation();
  const [read] = useLazyChangedDocumentsQuery();
  const { enqueueSnackbar } = useSnackbar();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const takeBack = () =>
    void undo({ id: change.id, collection: change.collection })
      .unwrap()
      .then(
        ({ restored }) => enqueueSnackbar(`${counted(restored, 'document')} put back as before.`),
        (error: unknown) => enqueueSnackbar(problemText(error), { variant: 'error', autoHideDuration: 12_000 }),
      );
  const askAboutThese = async () => {
    const identities: unknown[] = [];
    const identityOf = identityReader(identity);
    const asked = Math.min(change.changed, identitiesAsked);
    for (let from = 0; from < asked; from += 1_000) {
      const { data, error: failure } = await read({ id: change.id, offset: from, size: 1_000 });
      if (data === undefined) return void enqueueSnackbar(problemText(failure), { variant: 'error' });
      identities.push(...data.documents.map(({ after, before, identity: text }) => identityOf(after ?? before) ?? text));
    }
    const which = asked < change.changed ? `the first ${count(asked)} of the ${count(change.changed)} documents` : 'the documents';
    dispatch(
      opened({
        text: `# ${which} of a change\nfrom ${change.collection}\nwhere ${identity} in :changed\n`,
        parameters: { changed: JSON.stringify(identities) },
      }),
    );
    void navigate('/bench');
  };
  return (
    <Box
      component="section"
      aria-label={`Change of ${counted(change.changed, 'document')}`}
      sx={{ borderBottom: 1, borderColor: 'divider', bgcolor: 'background.paper' }}
    >
      <Box sx={{ display: 'flex', gap: 2, px: 2.5, py: 1.5, alignItems: 'flex-start' }}>
        <Box
          component="pre"
          sx={{ m: 0, flex: 1, minWidth: 0, fontFamily: codeFont, fontSize: 12, whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' }}
        >
          {change.change.trim()}
        </Box>
        <Box sx={{ width: 250, flex: 'none', fontSize: 12.5 }}>
          <b>{counted(change.changed, 'document')}</b> of {count(change.matched)} found
          <Box sx={{ color: 'text.secondary' }}>{instantText(change.madeAt)}</Box>
          <Box sx={{ color: change.changedSince > 0 ? 'secondary.main' : 'text.secondary' }}>{stateOf(change)}</Box>
        </Box>
        <Box sx={{ display: 'flex', flexDirection: 'column', gap: 0.5, alignItems: 'stretch', width: 150, flex: 'none' }}>
          <Button
            size="small"
            variant="outlined"
            disabled={!change.kept || change.undoneAt !== null || change.changedSince > 0 || isLoading}
            onClick={takeBack}
          >
            Take it back
          </Button>
          <Button size="small" disabled={!change.kept} onClick={() => setShown(!isShown)} aria-expanded={isShown}>
            {isShown ? 'Hide' : 'Before and after'}
          </Button>
          <Button size="small" disabled={!change.kept} onClick={() => void askAboutThese()}>
            Ask about these
          </Button>
        </Box>
      </Box>
      {isShown && <Documents change={change} offset={offset} onOffset={setOffset} />}
    </Box>
  );
}

function Documents({ change, offset, onOffset }: { change: ChangeInfo; offset: number; onOffset: (offset: number) => void }) {
  const { data, error } = useChangedDocumentsQuery({ id: change.id, offset, size: pageSize });
  if (error) return <Box sx={{ px: 2.5, pb: 1.5, color: 'error.main' }}>{problemText(error)}</Box>;
  return (
    <Box sx={{ px: 1, pb: 1 }}>
      {data?.documents.map(({ identity, before, after, changedSince }) => (
        <Box key={identity} sx={{ pb: 1 }}>
          <Box sx={{ px: 1.5, fontSize: 12, fontWeight: 650 }}>
            {identity}
            {
              changedSince && <Box component="span" sx={{ color: 'secondary.main', fontWeight: 450 }}> changed since</Box> /* prettier-ignore */
            }
          </Box>
          <DiffView before={before} after={after} />
        </Box>
      ))}
      {(offset > 0 || data?.hasMore) && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', px: 1.5, fontSize: 12.5 }}>
          <Button size="small" disabled={offset === 0} onClick={() => onOffset(Math.max(0, offset - pageSize))}>
            Before
          </Button>
          {count(offset + 1)} to {count(Math.min(change.changed, offset + pageSize))} of {count(change.changed)}
          <Button size="small" disabled={!data?.hasMore} onClick={() => onOffset(offset + pageSize)}>
            Next
          </Button>
        </Box>
      )}
    </Box>
  );
}
