import { zodResolver } from '@hookform/resolvers/zod';
import { useBench } from '../../state/bench/useBench.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import { useEffect } from 'react';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import type { TraceAnswer } from '@zesty-sieve/contract';
import { useTraceMutation } from '../../api/asking.ts';
import { problemText } from '../../api/problems.ts';
import { FormField } from '../../parts/FormField.tsx';
import { count } from '../../parts/numbers.ts';
import { JsonView } from '../../parts/JsonView.tsx';
import { Lines } from '../../parts/plan/StepTable.tsx';
import { parametersFor } from '../../state/bench/parameters.ts';

const asked = z.object({ identity: z.string().trim().min(1) });

/** Follows one document through the lines: where it fell out, and which condition dropped it. */
export function TraceDialog({ open, onClose, identity = '' }: { open: boolean; onClose: () => void; identity?: string }) {
  const { text, parameters } = useBench('text', 'parameters');
  const {
    control,
    handleSubmit,
    reset: fill,
    formState,
  } = useForm({ resolver: zodResolver(asked), mode: 'onChange', defaultValues: { identity } });
  const { isValid } = formState;
  const [trace, { data, error, isLoading, reset }] = useTraceMutation();
  const follow = (wanted: string) => void trace({ pipeline: text, parameters: parametersFor(parameters), identity: wanted });
  useEffect(() => {
    reset();
    fill({ identity });
    if (open && identity !== '') follow(identity);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a trace is asked for when the dialog opens
  }, [open, identity]);
  return (
    <Dialog open={open} onClose={onClose} maxWidth="md">
      <DialogTitle sx={{ fontSize: 16, fontWeight: 700 }}>Trace a document</DialogTitle>
      <DialogContent>
        <Box component="form" onSubmit={handleSubmit((given) => follow(given.identity))} sx={{ display: 'flex', gap: 1.5, pt: 1, pb: 2 }}>
          <FormField label="Its identity" control={control} name="identity" autoFocus sx={{ width: 260 }} />
          <Button type="submit" variant="contained" disabled={!isValid || isLoading}>
            Follow it
          </Button>
        </Box>
        {error !== undefined && <Box sx={{ color: 'error.main' }}>{problemText(error)}</Box>}
        {data && <TraceView trace={data} text={text} />}
      </DialogContent>
    </Dialog>
  );
}

function TraceView({ trace, text }: { trace: TraceAnswer; text: string }) {
  const lines = text.split('\n');
  const verdict = !trace.found
    ? `There is no document ${trace.identity} in the collection.`
    : trace.droppedAt === undefined
      ? 'It is in the result.'
      : `It fell out at line ${trace.droppedAt}.`;
  return (
    <Box role="region" aria-label="Trace">
      <Box sx={{ fontSize: 15, fontWeight: 650, pb: 1 }}>{verdict}</Box>
      {trace.lines.map(({ line, outcome, conditions, place, row, rows }) => (
        <Box
          key={line}
          sx={{
            display: 'grid',
            gridTemplateColumns: '40px minmax(0, 1fr) 110px',
            columnGap: 1.5,
            py: 1,
            borderTop: 1,
            borderColor: 'divider',
            opacity: outcome === 'absent' ? 0.45 : 1,
          }}
        >
          <span>
            <Lines lines={[line]} />
          </span>
          <Box sx={{ minWidth: 0 }}>
            <Box component="code" sx={{ fontSize: 12.5, overflowWrap: 'anywhere' }}>
              {lines[line - 1]}
            </Box>
            {conditions.map((condition) => (
              <Box key={condition.condition} sx={{ fontSize: 12.5, pt: 0.5, color: condition.held ? 'text.secondary' : 'error.main' }}>
                {condition.held ? 'holds: ' : 'does not hold: '}
                <code>{condition.condition}</code>
                {condition.values.map(({ path, value, missing }) => (
                  <span key={path}>
                    {' '}
                    · <code>{path}</code> is {missing ? 'missing' : <code>{JSON.stringify(value)}</code>}
                  </span>
                ))}
              </Box>
            ))}
            {rows !== undefined && rows > 1 && (
              <Box sx={{ fontSize: 12.5, color: 'text.secondary', pt: 0.5 }}>It is {count(rows)} rows from here; the first is shown.</Box>
            )}
            {place && (
              <Box sx={{ fontSize: 12.5, color: 'text.secondary', pt: 0.5 }}>
                It was number {count(place.at)} of {count(place.of)}.
              </Box>
            )}
            {outcome === 'changed' && row !== undefined && (
              <Box component="details" sx={{ fontSize: 12, pt: 0.5 }}>
                <summary>what it looks like from here</summary>
                <JsonView value={row} open={1} />
              </Box>
            )}
          </Box>
          <Box sx={{ fontWeight: 600, fontSize: 12.5, textAlign: 'right', color: outcome === 'dropped' ? 'error.main' : 'text.primary' }}>
            {outcome === 'absent' ? 'not there' : outcome}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
