import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import type { LineChange } from './output/lineChanges.ts';
import { memo } from 'react';
import { useAppDispatch } from '../../app/store.ts';
import { viewed } from '../../state/bench/benchSlice.ts';
import { previewMs, type View } from '../../state/bench/benchState.ts';
import { useBench } from '../../state/bench/useBench.ts';
import type { Desk } from './desk.ts';
import { barHeight } from './layout.ts';
import { FieldsOfLine } from './output/FieldsOfLine.tsx';
import { LineChanges } from './output/lineChanges.ts';
import { Output, OutputTitle, Title } from './output/Output.tsx';
import { OutputActions } from './output/OutputActions.tsx';
import { PinnedBar } from './PinnedBar.tsx';
import { PlanView } from './plan/PlanView.tsx';
import { useBuild } from './state/useBuild.ts';

interface OutputSideProps {
  readonly desk: Desk;
  /** What the line at the cursor does to the fields. */
  readonly changes: LineChange | undefined;
  readonly onTrace: (identity: string) => void;
}

/** What comes out, or how: drawn again when a run tells something else, not for a letter in the text. */
export const OutputSide = memo(function OutputSide({ desk, changes, onTrace }: OutputSideProps) {
  const dispatch = useAppDispatch();
  const { view, whole } = useBench('view', 'whole');
  const builder = useBuild(desk.runInFull);
  // What tells of tables is no run: its rows are all here, and kept nowhere.
  const isTable = whole.answer?.result.lines.length === 0;
  return (
    <>
      <Box
        sx={{
          height: barHeight,
          flex: 'none',
          px: 2,
          display: 'flex',
          alignItems: 'center',
          justifyContent: 'space-between',
          gap: 2,
          bgcolor: 'background.paper',
          borderBottom: 1,
          borderColor: 'divider',
        }}
      >
        {view === 'plan' ? (
          <Title
            main="Plan of this run"
            more={whole.answer?.result.bounded ? `of ${previewMs} ms of work` : 'as the work went'}
            strong={whole.answer?.result.bounded ?? false}
          />
        ) : (
          <OutputTitle />
        )}
        <ToggleButtonGroup value={view} onChange={(_event, next: View | null) => next && dispatch(viewed(next))} aria-label="What is shown">
          <ToggleButton value="table">Table</ToggleButton>
          <ToggleButton value="documents">Documents</ToggleButton>
          <ToggleButton value="shape">Shape</ToggleButton>
          <ToggleButton value="chart">Chart</ToggleButton>
          <ToggleButton value="plan">Plan</ToggleButton>
        </ToggleButtonGroup>
      </Box>
      {view !== 'plan' && !isTable && <OutputActions />}
      {view !== 'plan' && <FieldsOfLine changes={changes} />}
      <PinnedBar />
      {view === 'plan' ? (
        <PlanView builder={builder} onAfter={desk.goOnAfter} />
      ) : (
        <LineChanges value={changes}>
          <Output
            onRun={desk.runInFull}
            onBuild={builder.build}
            onMend={desk.mend}
            onStage={desk.addStage}
            onAfter={desk.goOnAfter}
            onTrace={onTrace}
          />
        </LineChanges>
      )}
    </>
  );
});
