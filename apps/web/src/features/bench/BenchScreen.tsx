import Box from '@mui/material/Box';
import type { LineChange } from './output/lineChanges.ts';
import { useCallback, useMemo, useRef, useState } from 'react';
import { useCommands } from '../../app/commands.ts';
import { changeTextSize } from '../../parts/editor/textSize.ts';
import { useHotkeys } from 'react-hotkeys-hook';
import { Panel, PanelGroup } from 'react-resizable-panels';
import { useAppDispatch, useAppSelector, useAppStore } from '../../app/store.ts';
import { later } from '../../parts/later.tsx';
import { ResizeHandle } from '../../parts/ResizeHandle.tsx';
import { viewed } from '../../state/bench/benchSlice.ts';
import { CostStrip } from './CostStrip.tsx';
import { noDesk, type Desk } from './desk.ts';
import { EditorSide } from './EditorSide.tsx';
import { SqlSide } from './sql/SqlSide.tsx';
import { Guide } from './lessons/Guide.tsx';
import { OutputSide } from './OutputSide.tsx';
import { useAddress } from './state/useAddress.ts';

const Reference = later(async () => (await import('./Reference.tsx')).Reference);
const TraceDialog = later(async () => (await import('./TraceDialog.tsx')).TraceDialog);

/** Where a pipeline is written, run and read. */
export function BenchScreen() {
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const isSql = useAppSelector(({ bench }) => bench.sql !== null);
  const [changes, setChanges] = useState<LineChange>();
  const [isReference, setReference] = useState(false);
  const [tracing, setTracing] = useState<{ open: boolean; identity: string }>({ open: false, identity: '' });
  const current = useRef<Desk>(noDesk);
  const desk = useMemo(
    (): Desk => ({
      runInFull: () => current.current.runInFull(),
      addStage: (written) => current.current.addStage(written),
      mend: (edits) => current.current.mend(edits),
      goOnAfter: (row) => current.current.goOnAfter(row),
      tryExample: (example) => current.current.tryExample(example),
    }),
    [],
  );
  const trace = useCallback((identity: string) => setTracing({ open: true, identity }), []);
  const traceAny = useCallback(() => trace(''), [trace]);
  const showReference = useCallback(() => setReference((shown) => !shown), []);

  const switchPlan = () => dispatch(viewed(store.getState().bench.view === 'plan' ? 'table' : 'plan'));
  useHotkeys('?', showReference, { useKey: true });
  useHotkeys('p', () => switchPlan(), { useKey: true });
  useCommands([
    { name: 'Run on everything', keys: 'Ctrl Enter', run: desk.runInFull },
    { name: 'Switch between output and plan', keys: 'P', run: switchPlan },
    { name: 'Trace a document', run: traceAny },
    { name: 'Show the reference and the keys', keys: '?', run: showReference },
    { name: 'Larger text in the editor', keys: 'Alt +', run: () => changeTextSize(1) },
    { name: 'Smaller text in the editor', keys: 'Alt -', run: () => changeTextSize(-1) },
    { name: 'Text of the usual size in the editor', keys: 'Alt 0', run: () => changeTextSize(0) },
  ]);
  // The editor has the same keys of its own, and says so.
  useHotkeys('mod+enter', (event) => !event.defaultPrevented && desk.runInFull(), {
    enableOnFormTags: true,
    enableOnContentEditable: true,
  });

  return (
    <Box sx={{ flex: 1, minWidth: 0, display: 'flex', flexDirection: 'column' }}>
      <Guide />
      <PanelGroup direction="horizontal" autoSaveId="bench-columns" style={{ flex: 1, minHeight: 0 }}>
        <Panel defaultSize={51.5} minSize={30} style={{ display: 'flex', flexDirection: 'column', minWidth: 0 }}>
          {isSql ? (
            <SqlSide desk={current} onChanges={setChanges} onReference={showReference} />
          ) : (
            <EditorSide desk={current} onChanges={setChanges} onReference={showReference} onTrace={traceAny} />
          )}
        </Panel>
        <ResizeHandle label="Width of the editor" between="columns" />
        <Panel minSize={30} style={{ display: 'flex', flexDirection: 'column', minWidth: 0 }}>
          <OutputSide desk={desk} changes={changes} onTrace={trace} />
        </Panel>
      </PanelGroup>
      <CostStrip />
      <Reference open={isReference} onClose={() => setReference(false)} onExample={desk.tryExample} />
      <TraceDialog open={tracing.open} identity={tracing.identity} onClose={() => setTracing({ open: false, identity: '' })} />
      {/* Last, since what an address asks for is asked of the editor that stands before it. */}
      <Address />
    </Box>
  );
}

/** Keeps the address and the Bench alike; it follows each letter, and draws nothing. */
function Address() {
  useAddress();
  return null;
}
