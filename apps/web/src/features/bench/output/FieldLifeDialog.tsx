import Box from '@mui/material/Box';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { fieldLife, usualSurface } from '@zesty-sieve/core/language';
import { useAppSelector } from '../../../app/store.ts';
import { Lines } from '../../../parts/plan/StepTable.tsx';

/** Where a field of the output comes from: the lines that had a part in it, and the fields of collections that it begins with. */
export function FieldLifeDialog({ path, names, onClose }: { path: string; names: readonly string[]; onClose: () => void }) {
  const text = useAppSelector(({ bench }) => bench.text);
  const { steps, sources } = fieldLife(usualSurface.parse(text).stages, names);
  return (
    <Dialog open onClose={onClose} maxWidth="sm">
      <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>
        The life of <code>{path}</code>
      </DialogTitle>
      <DialogContent>
        {steps.map(({ line, field, made, from }, i) => (
          <Box key={i} sx={{ display: 'grid', gridTemplateColumns: '44px 1fr', columnGap: 1, py: 0.75, borderTop: 1, borderColor: 'divider', fontSize: 13 }}>
            <span>
              <Lines lines={[line]} />
            </span>
            <Box sx={{ overflowWrap: 'anywhere' }}>
              <code>{field}</code> is {made}
              {from.length > 0 && (
                <Box sx={{ color: 'text.secondary', fontSize: 12.5 }}>
                  from <code>{from.join(', ')}</code>
                </Box>
              )}
            </Box>
          </Box>
        ))}
        <Box sx={{ py: 1, borderTop: 1, borderColor: 'divider', fontSize: 13 }}>
          {sources.length === 0 ? 'It begins with no field: it counts rows.' : <>It begins with {sources.map((source, i) => <span key={source}>{i > 0 && ', '}<code>{source}</code></span>)}.</>}
        </Box>
      </DialogContent>
    </Dialog>
  ); // prettier-ignore
}
