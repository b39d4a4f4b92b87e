import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import type { EditorView } from '@codemirror/view';
import { checkPipeline, parametersOf, rowsAfter, type Diagnostic, usualSurface } from '@zesty-sieve/core/language';
import { useSnackbar } from 'notistack';
import { useEffect, useMemo, useRef, useState } from 'react';
import { Panel, PanelGroup, PanelResizeHandle } from 'react-resizable-panels';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { count } from '../../parts/numbers.ts';
import { CostStrip } from './CostStrip.tsx';
import { Editor } from '../../parts/editor/Editor.tsx';
import { format } from '../../parts/editor/commands.ts';
import { StageArea } from '../../parts/form/StageArea.tsx';
import { firstStart, stageStarts } from '../../parts/form/stageStarts.ts';
import { pipelineIn } from './codeOut.ts';
import { DraftBanner } from './DraftBanner.tsx';
import { barHeight } from './layout.ts';
import { later } from '../../parts/later.tsx';
import { PullOut } from './PullOut.tsx';
import { RunBar } from './RunBar.tsx';
import { ParametersBar } from '../../parts/asking/ParametersBar.tsx';
import { PinnedBar } from './PinnedBar.tsx';
import { FieldsOfLine } from './output/FieldsOfLine.tsx';
import { changesAt, LineChanges } from './output/lineChanges.ts';
import { OutputActions } from './output/OutputActions.tsx';
import { Output, OutputTitle, Title } from './output/Output.tsx';
import { PlanView } from './plan/PlanView.tsx';
import { draftedOn, movedTo, opened, parametersTyped, typed, viewed } from '../../state/bench/benchSlice.ts';
import { previewReads, type View } from '../../state/bench/benchState.ts';
import { useAddress } from './state/useAddress.ts';
import { useBuild } from './state/useBuild.ts';
import { useEnvironment } from '../../parts/asking/useEnvironment.ts';
import { useMarginData } from './state/useMarginData.ts';
import { useRuns } from './state/useRuns.ts';
import { useStageText } from '../../parts/asking/useStageText.ts';

const Reference = later(async () => (await import('./Reference.tsx')).Reference);
const TraceDialog = later(async () => (await import('./TraceDialog.tsx')).TraceDialog);

const findingsPauseMs = 450;

/** Where a pipeline is written, run and read. */
export function BenchScreen() {
  useAddress();
  const dispatch = useAppDispatch();
  const { enqueueSnackbar } = useSnackbar();
  const bench = useAppSelector((state) => state.bench);
  const { text, loaded, cursorLine, view, whole } = bench;
  const pipeline = useMemo(() => usualSurface.parse(text), [text]);
  const source = useMemo(() => checkPipeline(pipeline).source, [pipeline]);
  const environment = useEnvironment(text);
  const checked = useMemo(() => checkPipeline(pipeline, environment), [pipeline, environment]);
  const { runInFull, stop } = useRuns(checked);
  const builder = useBuild(source, runInFull);
  const diagnostics = useLater(checked.diagnostics, text);
  const margin = useMarginData(bench);
  const names = useMemo(() => parametersOf(pipeline), [pipeline]);
  const editor = useRef<EditorView>(null);
  const [isReference, setReference] = useState(false);
  const [tracing, setTracing] = useState<{ open: boolean; identity: string }>({ open: false, identity: '' });
  const stageHere = checked.stages.findLast(({ placed }) => placed.line <= cursorLine);
  const nextStage = stageHere && checked.stages[checked.stages.indexOf(stageHere) + 1];
  const changes = useMemo(() => changesAt(stageHere), [stageHere]);

  const { writeStage, writeNext, addStage } = useStageText(editor, stageHere);

  /** Opens the pipeline that starts after a row, beside this one. */
  const goOnAfter = (row: unknown) => {
    const made = rowsAfter(text, row, ['id'], (line) => checked.stages.find(({ placed }) => placed.line === line)?.before);
    if ('reason' in made) {
      enqueueSnackbar(made.reason, { variant: 'warning' });
      return;
    }
    dispatch(opened({ text: made.text, guards: bench.guards, parameters: bench.parameters }));
    if (made.addedTie) enqueueSnackbar('The identity was added as the last key, so that no tie is skipped or comes twice.');
  };

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      const isTyping = target.isContentEditable || /^(?:INPUT|TEXTAREA)$/.test(target.tagName);
      if (event.key === '?' && !isTyping) setReference((shown) => !shown);
      if (event.key === 'Enter' && (event.ctrlKey || event.metaKey) && !event.defaultPrevented) runInFull();
      if (
        event.key.toLowerCase() === 'p' &&
        !event.ctrlKey &&
        !event.metaKey &&
        !event.altKey &&
        !target.isContentEditable &&
        !/^(?:INPUT|TEXTAREA)$/.test(target.tagName)
      ) {
        dispatch(viewed(view === 'plan' ? 'table' : 'plan'));
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [dispatch, runInFull, view]);

  return (
    <Box sx={{ flex: 1, minWidth: 0, display: 'flex', flexDirection: 'column' }}>
      <PanelGroup direction="horizontal" autoSaveId="bench-columns" style={{ flex: 1, minHeight: 0 }}>
        <Panel defaultSize={51.5} minSize={30} style={{ display: 'flex', flexDirection: 'column', minWidth: 0 }}>
          <RunBar
            bench={bench}
            onRun={runInFull}
            onStop={stop}
            onFormat={() => editor.current && format(editor.current)}
            onReference={() => setReference(!isReference)}
          />
          {bench.note !== null && (
            <Box
              sx={{
                px: 2,
                py: 0.9,
                fontSize: 12.5,
                color: 'text.secondary',
                bgcolor: (t) => t.roles.form,
                borderBottom: 1,
                borderColor: 'divider',
              }}
            >
              {bench.note}
            </Box>
          )}
          {bench.only.length > 0 && <DraftBanner identities={bench.only} onBack={() => dispatch(draftedOn([]))} />}
          <ParametersBar names={names} parameters={bench.parameters} onChange={(given) => dispatch(parametersTyped(given))} />
          <PanelGroup direction="vertical" autoSaveId="bench-editor" style={{ flex: 1, minHeight: 0 }}>
            <Panel defaultSize={58} minSize={20} style={{ display: 'flex', flexDirection: 'column', minHeight: 0 }}>
              <Editor
                onReady={(view) => {
                  editor.current = view;
                }}
                text={text}
                tab={bench.tab}
                loaded={loaded}
                cursorLine={cursorLine}
                environment={environment}
                margin={margin}
                diagnostics={diagnostics}
                onText={(next) => dispatch(typed(next))}
                onLine={(line) => dispatch(movedTo(line))}
                onRun={runInFull}
                onPaste={(pasted) => {
                  const call = pipelineIn(pasted);
                  if (call === undefined) return false;
                  const given = Object.entries(call.parameters ?? {}).map(([name, value]) => [
                    name,
                    typeof value === 'string' ? value : JSON.stringify(value),
                  ]);
                  dispatch(opened({ text: call.pipeline, parameters: Object.fromEntries(given) as Record<string, string> }));
                  return true;
                }}
              />
            </Panel>
            <Box
              component={PanelResizeHandle}
              aria-label="Height of the form"
              sx={{
                height: 7,
                my: '-3px',
                zIndex: 2,
                position: 'relative',
                '&::after': { content: '""', position: 'absolute', insetInline: 0, top: 3, height: '1px', bgcolor: 'divider' },
              }}
            />
            <Panel minSize={8} collapsible collapsedSize={0} style={{ display: 'flex', flexDirection: 'column', minHeight: 0 }}>
              <StageArea
                label="Form of the stage"
                checked={stageHere}
                next={nextStage}
                starts={source === undefined ? [firstStart] : stageStarts}
                onText={writeStage}
                onNext={writeNext}
                onAdd={addStage}
                onTrace={() => setTracing({ open: true, identity: '' })}
              >
                {stageHere && stageHere.placed.line > (checked.stages[0]?.placed.line ?? 1) && (
                  <PullOut
                    lines={`lines 1 to ${stageHere.placed.line}`}
                    text={text.slice(0, stageHere.placed.to)}
                    onDone={(name) => {
                      editor.current?.dispatch({
                        changes: { from: 0, to: stageHere.placed.to, insert: `from ${name}` },
                        selection: { anchor: `from ${name}`.length },
                        userEvent: 'input.form',
                      });
                      enqueueSnackbar(`${name} is a view now, and this pipeline reads it.`);
                    }}
                  />
                )}
              </StageArea>
            </Panel>
          </PanelGroup>
        </Panel>
        <Divider />
        <Panel minSize={30} style={{ display: 'flex', flexDirection: 'column', minWidth: 0 }}>
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
                more={whole.answer?.result.bounded ? `of the first ${count(previewReads)} read` : 'as the work went'}
                strong={whole.answer?.result.bounded ?? false}
              />
            ) : (
              <OutputTitle />
            )}
            <ToggleButtonGroup
              value={view}
              onChange={(_event, next: View | null) => next && dispatch(viewed(next))}
              aria-label="What is shown"
            >
              <ToggleButton value="table">Table</ToggleButton>
              <ToggleButton value="documents">Documents</ToggleButton>
              <ToggleButton value="shape">Shape</ToggleButton>
              <ToggleButton value="chart">Chart</ToggleButton>
              <ToggleButton value="plan">Plan</ToggleButton>
            </ToggleButtonGroup>
          </Box>
          {view !== 'plan' && <OutputActions />}
          {view !== 'plan' && <FieldsOfLine changes={changes} />}
          <PinnedBar />
          {view === 'plan' ? (
            <PlanView builder={builder} onAfter={goOnAfter} />
          ) : (
            <LineChanges value={changes}>
              <Output
                onRun={runInFull}
                onBuild={builder.build}
                onMend={(edits) => {
                  editor.current?.dispatch({
                    changes: edits.map(({ from, to, insert }) => ({ from, to, insert })),
                    userEvent: 'input.mend',
                  });
                }}
                onStage={addStage}
                onAfter={goOnAfter}
                onTrace={(identity) => setTracing({ open: true, identity })}
              />
            </LineChanges>
          )}
        </Panel>
      </PanelGroup>
      <CostStrip />
      <Reference
        open={isReference}
        onClose={() => setReference(false)}
        onExample={(example) => {
          const view = editor.current;
          if (view === null) return;
          const isWhole = example.startsWith('from ') || source === undefined;
          if (!isWhole) {
            addStage(example);
            return;
          }
          const insert = example.startsWith('from ') ? example : `from huts\n${example}`;
          view.dispatch({
            changes: { from: 0, to: view.state.doc.length, insert },
            selection: { anchor: insert.length },
            userEvent: 'input.example',
          });
        }}
      />
      <TraceDialog open={tracing.open} identity={tracing.identity} onClose={() => setTracing({ open: false, identity: '' })} />
    </Box>
  );
}

function Divider() {
  return (
    <Box
      component={PanelResizeHandle}
      aria-label="Width of the editor"
      sx={{
        width: 7,
        mx: '-3px',
        zIndex: 2,
        position: 'relative',
        '&::after': { content: '""', position: 'absolute', insetBlock: 0, left: 3, width: '1px', bgcolor: 'divider' },
        '&:hover::after, &:focus-visible::after': { bgcolor: 'text.secondary' },
      }}
    />
  );
}

/** Diagnostics wait until typing pauses: what is half typed is not wrong yet. */
function useLater(diagnostics: readonly Diagnostic[], text: string): readonly Diagnostic[] {
  const [shown, setShown] = useState<readonly Diagnostic[]>([]);
  useEffect(() => {
    const timer = setTimeout(() => setShown(diagnostics), findingsPauseMs);
    return () => clearTimeout(timer);
  }, [diagnostics, text]);
  return shown;
}
