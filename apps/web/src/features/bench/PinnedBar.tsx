import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useEffect, useState } from 'react';
import type { ComparisonAnswer } from '@zesty-sieve/contract';
import { problemText, useCompareMutation } from '../../api/api.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { counted } from '../../parts/numbers.ts';
import { JsonView } from './output/JsonView.tsx';
import { parametersFor } from './state/ask.ts';
import { pinned as pin } from './state/benchSlice.ts';

/** How the rows of this question stand to those of the pinned one. */
export function PinnedBar() {
  const { pinned, whole, text, parameters } = useAppSelector(({ bench }) => bench);
  const dispatch = useAppDispatch();
  const [compare, { data, error, isLoading, reset }] = useCompareMutation();
  const [isOpen, setOpen] = useState(false);
  const runId = whole.answer?.asked.full === true && whole.answer.asked.text === text ? whole.answer.result.runId : undefined;
  useEffect(() => {
    if (pinned === null || runId === undefined) return;
    if (pinned.text === text && JSON.stringify(pinned.parameters) === JSON.stringify(parameters)) {
      reset();
      return;
    }
    void compare({
      first: { pipeline: pinned.text, parameters: parametersFor(pinned.parameters) },
      second: { pipeline: text, parameters: parametersFor(parameters) },
    });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- each full run is compared once
  }, [runId, pinned]);
  if (pinned === null) return null;
  return (
    <Box
      role="region"
      aria-label="Compared with the pinned result"
      sx={{
        px: 2,
        py: 1,
        fontSize: 12.5,
        borderBottom: 1,
        borderColor: 'divider',
        bgcolor: (t) => t.roles.form,
        maxHeight: 260,
        overflow: 'auto',
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
        <Box sx={{ flex: 1 }}>
          {data ? (
            <b>{verdict(data)}</b>
          ) : error ? (
            problemText(error)
          ) : isLoading ? (
            'Comparing …'
          ) : (
            `${counted(pinned.rowsReturned, 'row')} pinned. Change the question and run it in full: its rows are compared with these.`
          )}
        </Box>
        {data && !data.sameSet && (
          <Button size="small" onClick={() => setOpen(!isOpen)}>
            {isOpen ? 'Hide the rows' : 'Show the rows'}
          </Button>
        )}
        <Button size="small" onClick={() => dispatch(pin(null))}>
          Unpin
        </Button>
      </Box>
      {data && isOpen && !data.sameSet && <Differences data={data} />}
    </Box>
  );
}

function verdict({ sameSet, sameOrder, counts }: ComparisonAnswer): string {
  if (sameOrder) return 'The same rows in the same order.';
  if (sameSet) return 'The same rows, in another order.';
  const parts = [
    counts.onlyInFirst > 0 && `${counted(counts.onlyInFirst, 'row')} only in the pinned result`,
    counts.onlyInSecond > 0 && `${counted(counts.onlyInSecond, 'row')} only in this one`,
    counts.differing > 0 && `${counted(counts.differing, 'row')} of the same identity that differ inside`,
  ];
  return `Not the same: ${parts.filter(Boolean).join(', ')}.`;
}

const shown = 20;

function Differences({ data }: { data: ComparisonAnswer }) {
  const list = (title: string, rows: readonly unknown[]) =>
    rows.length > 0 && (
      <Box sx={{ pt: 1 }}>
        <b>{title}</b>
        {rows.slice(0, shown).map((row, i) => (
          <JsonView key={i} value={row} open={0} />
        ))}
      </Box>
    );
  return (
    <>
      {list('Only in the pinned result', data.onlyInFirst)}
      {list('Only in this one', data.onlyInSecond)}
      {list(
        'Different inside',
        data.differing.map(({ identity, first, second }) => ({ identity, pinned: first, now: second })),
      )}
    </>
  );
}
