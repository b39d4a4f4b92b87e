import { useBench } from '../../state/bench/useBench.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useEffect } from 'react';
import { useCompareMutation } from '../../api/asking.ts';
import { problemText } from '../../api/problems.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../../app/store.ts';
import { counted } from '../../parts/numbers.ts';
import { RowDifferences } from '../../parts/RowDifferences.tsx';
import { parametersFor } from '../../state/bench/parameters.ts';
import { pinned as pin } from '../../state/bench/benchSlice.ts';

const names = ['the pinned result', 'this one'] as const;

/** How the rows of this question stand to those of the pinned one. */
export function PinnedBar() {
  const { pinned } = useBench('pinned');
  const store = useAppStore();
  const dispatch = useAppDispatch();
  const [compare, { data, error, isLoading, reset }] = useCompareMutation();
  const runId = useAppSelector(({ bench: { whole, text } }) =>
    whole.answer?.asked.full === true && whole.answer.asked.text === text ? whole.answer.result.runId : undefined,
  );
  useEffect(() => {
    if (pinned === null || runId === undefined) return;
    const { text, parameters } = store.getState().bench;
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
      <Box sx={{ display: 'flex', alignItems: 'flex-start', gap: 1.5 }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          {data ? (
            <RowDifferences key={runId} comparison={data} names={names} />
          ) : error ? (
            problemText(error)
          ) : isLoading ? (
            'Comparing …'
          ) : (
            `${counted(pinned.rowsReturned, 'row')} pinned. Change the question and run it in full: its rows are compared with these.`
          )}
        </Box>
        <Button size="small" onClick={() => dispatch(pin(null))}>
          Unpin
        </Button>
      </Box>
    </Box>
  );
}
