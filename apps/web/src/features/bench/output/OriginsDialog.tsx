import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogTitle from '@mui/material/DialogTitle';
import LinearProgress from '@mui/material/LinearProgress';
import type { OriginsAnswer } from '@zesty-sieve/contract';
import { useOriginsQuery } from '../../../api/asking.ts';
import { useCollectionsQuery } from '../../../api/collections.ts';
import { problemText } from '../../../api/problems.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { JsonView } from '../../../parts/JsonView.tsx';
import { DocumentList } from '../../../parts/documents/DocumentList.tsx';
import { count, counted } from '../../../parts/numbers.ts';
import { parametersFor } from '../../../state/bench/parameters.ts';
import type { Asked } from '../../../state/bench/benchState.ts';
import { opened } from '../../../state/bench/benchSlice.ts';
import { useBench } from '../../../state/bench/useBench.ts';
import { asking } from './asking.ts';

interface OriginsDialogProps {
  readonly asked: Asked;
  readonly row: unknown;
  readonly onClose: () => void;
}

/** More are not shown; how many there are is told. */
const most = 1_000;
const nothing = (): void => undefined;

/** The documents that a row comes from: through groups, and through views, those whose rows are kept too. */
export function OriginsDialog({ asked, row, onClose }: OriginsDialogProps) {
  const { parameters, only } = useBench('parameters', 'only');
  const { data: collections = [] } = useCollectionsQuery();
  const dispatch = useAppDispatch();
  const { data, error, isFetching } = useOriginsQuery({
    pipeline: asked.text,
    row: row as never,
    parameters: parametersFor(parameters),
    size: most,
    ...(asked.line !== undefined && { throughLine: asked.line }),
    ...(only.length > 0 && { only }),
  });
  const identity = collections.find(({ name }) => name === data?.collection)?.identity;
  const text = data && identity && data.count > 0 && asking(data.collection, identity, data.documents);
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>Documents behind the row</DialogTitle>
      <Box sx={{ px: 3, pb: 1.5, display: 'flex', gap: 3 }}>
        <Box sx={{ flex: 1, minWidth: 0, maxHeight: 130, overflow: 'auto' }}>
          <JsonView value={row} open={1} />
        </Box>
        <Box role="status" sx={{ width: 300, fontSize: 13 }}>
          {error !== undefined
            ? problemText(error)
            : data === undefined
              ? 'Looking for the documents that it comes from …'
              : sentence(data)}
        </Box>
      </Box>
      <Box sx={{ height: '50vh', display: 'flex', flexDirection: 'column', borderTop: 1, borderColor: 'divider' }}>
        {isFetching && <LinearProgress aria-label="Looking for its documents" />}
        <DocumentList rows={data?.documents ?? []} more={nothing} />
      </Box>
      <DialogActions sx={{ px: 3, py: 1.5 }}>
        <Button onClick={onClose}>Close</Button>
        <Button
          variant="contained"
          disabled={!text}
          onClick={() => {
            dispatch(opened({ text: text as string }));
            onClose();
          }}
        >
          Ask about them
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function sentence({ collection, count: all, documents, rows }: OriginsAnswer): string {
  if (rows === 0) return 'No row is like this one now: its documents have changed since. Run it again.';
  const shown = documents.length < all ? ` The first ${count(documents.length)} are shown.` : '';
  const several = rows > 1 ? ` ${count(rows)} rows are alike.` : '';
  return `It comes from ${counted(all, 'document')} of ${collection}.${several}${shown}`;
}
