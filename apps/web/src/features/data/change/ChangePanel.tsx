import type { EditorView } from '@codemirror/view';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useTheme } from '@mui/material/styles';
import type { ChangeAnswer, CollectionInfo } from '@zesty-sieve/contract';
import { checkPipeline, identityNames, isChangeStep, parametersOf, usualSurface } from '@zesty-sieve/core/language';
import { useSnackbar } from 'notistack';
import { useMemo, useRef, useState } from 'react';
import { Panel, PanelGroup } from 'react-resizable-panels';
import { Problem } from '../../../parts/Problem.tsx';
import { count, counted } from '../../../parts/numbers.ts';
import { Editor } from '../../../parts/editor/Editor.tsx';
import { notationLanguage } from '../../../parts/editor/languages.ts';
import type { MarginData } from '../../../parts/editor/margin.ts';
import { StageArea } from '../../../parts/form/StageArea.tsx';
import { stepStarts } from '../../../parts/form/stageStarts.ts';
import { OtherText } from '../../../parts/form/writtenText.ts';
import { ParametersBar } from '../../../parts/asking/ParametersBar.tsx';
import { useEnvironment } from '../../../parts/asking/useEnvironment.ts';
import { useStageText } from '../../../parts/asking/useStageText.ts';
import { ApplyDialog } from './ApplyDialog.tsx';
import { ChangePreview } from './ChangePreview.tsx';
import { useMadeNotice } from './useMadeNotice.tsx';
import { useApply } from './useApply.ts';
import { usePreview } from './usePreview.ts';

/** A change of many documents: written as text or in forms, previewed as it is written, and made. */
export function ChangePanel({ collection, onMade }: { collection: CollectionInfo; onMade: (changeId: string) => void }) {
  const [text, setText] = useState(`from ${collection.name}\nwhere ${collection.identity} == ""\nset @.newField = 1\n`);
  const [line, setLine] = useState(2);
  const [parameters, setParameters] = useState<Record<string, string>>({});
  const [offset, setOffset] = useState(0);
  const [made, setMade] = useState(0);
  const [isAsking, setAsking] = useState(false);
  const editor = useRef<EditorView>(null);
  const { enqueueSnackbar } = useSnackbar();
  const { divider } = useTheme().palette;
  const { environment, pipeline, checked } = useCheckedChange(collection, text);
  const names = useMemo(() => parametersOf(pipeline), [pipeline]);
  const isBound = names.every((name) => (parameters[name] ?? '').trim() !== '');
  const isSound = isBound && checked.source === collection.name && !checked.diagnostics.some(({ severity }) => severity === 'error');
  const preview = usePreview(text, isSound, parameters, offset, made);
  const { answer } = preview;
  const isCurrent = preview.of === text;
  const margin = useMemo((): MarginData => {
    const lines = answer?.lines ?? [];
    return {
      lines: lines.map((one, i) => ({ ...one, rowsIn: lines[Math.max(0, i - 1)]!.rowsOut })),
      bounded: false,
      stale: !isCurrent,
      cursorLine: line,
    };
  }, [answer, isCurrent, line]);
  const stageHere = checked.stages.findLast(({ placed }) => placed.line <= line);
  const firstStep = pipeline.stages.find(({ stage }) => stage !== undefined && isChangeStep(stage));
  const written = useMemo(() => ({ text: text.slice(0, firstStep?.from ?? text.length), parameters }), [text, firstStep, parameters]);

  const again = () => setMade((n) => n + 1);
  const tellMade = useMadeNotice(collection.name, again);
  const done = (change: ChangeAnswer) => {
    setAsking(false);
    again();
    onMade(change.changeId);
    tellMade(change);
  };
  const { applying, apply, cancel } = useApply(collection.name, done, (problem) => {
    setAsking(false);
    enqueueSnackbar(problem, { variant: 'error', autoHideDuration: 12_000 });
  });
  const { writeStage, writeNext, addStage } = useStageText(editor, stageHere);
  const ready = (view: EditorView): void => void (editor.current = view);

  return (
    <OtherText value={written}>
      <PanelGroup direction="horizontal" style={{ flex: 1, minHeight: 0 }}>
        <Panel defaultSize={52} minSize={35} style={{ display: 'flex', flexDirection: 'column', minWidth: 0 }}>
          <ParametersBar names={names} parameters={parameters} onChange={(given) => setParameters((now) => ({ ...now, ...given }))} />
          <Box sx={{ flex: '1 1 50%', minHeight: 120, display: 'flex', bgcolor: 'background.paper' }}>
            <Editor
              language={notationLanguage}
              onReady={ready}
              text={text}
              tab="change"
              loaded={0}
              cursorLine={line}
              environment={environment}
              margin={margin}
              diagnostics={checked.diagnostics}
              onText={(next) => {
                setText(next);
                setOffset(0);
              }}
              onLine={setLine}
              onRun={() => setMade((n) => n + 1)}
            />
          </Box>
          <Box sx={{ flex: '1 1 50%', minHeight: 120, display: 'flex', flexDirection: 'column', borderTop: 1, borderColor: 'divider' }}>
            <StageArea
              label="Form of the step"
              checked={stageHere}
              next={undefined}
              starts={stepStarts}
              onText={writeStage}
              onNext={writeNext}
              onAdd={addStage}
            />
          </Box>
        </Panel>
        <Panel minSize={30} style={{ display: 'flex', flexDirection: 'column', minWidth: 0, borderLeft: `1px solid ${divider}` }}>
          <ChangeBar answer={answer} canChange={isSound && isCurrent && applying === null} onChange={() => setAsking(true)} />
          {preview.isWorking && <LinearProgress color="secondary" sx={{ height: 2 }} aria-label="Previewing" />}
          {preview.problem && <Problem text={preview.problem} />}
          {answer && <ChangePreview answer={answer} isCurrent={isCurrent} offset={offset} onOffset={setOffset} />}
        </Panel>
      </PanelGroup>
      {answer && (
        <ApplyDialog
          open={isAsking}
          collection={collection.name}
          preview={answer}
          applying={applying}
          onClose={() => setAsking(false)}
          onApply={() => void apply(text, parameters)}
          onCancel={cancel}
        />
      )}
    </OtherText>
  );
}

/** A change as it is read, and what is wrong with it. */
function useCheckedChange(collection: CollectionInfo, text: string) {
  const plain = useEnvironment(`from ${collection.name}`);
  const identity = identityNames(collection.identity);
  const environment = useMemo(
    () => ({ ...plain, purpose: 'change' as const, identityOf: () => identity }),
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the path is one of text
    [plain, collection.identity],
  );
  const pipeline = useMemo(() => usualSurface.parse(text), [text]);
  const checked = useMemo(() => checkPipeline(pipeline, environment), [pipeline, environment]);
  return { environment, pipeline, checked };
}

interface ChangeBarProps {
  readonly answer: ReturnType<typeof usePreview>['answer'];
  readonly canChange: boolean;
  readonly onChange: () => void;
}

/** How many would change, and the button that asks whether they shall. */
function ChangeBar({ answer, canChange, onChange }: ChangeBarProps) {
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 2,
        px: 2,
        height: 47,
        borderBottom: 1,
        borderColor: 'divider',
        bgcolor: 'background.paper',
      }}
    >
      <Box sx={{ flex: 1, fontSize: 13 }} aria-live="polite">
        {answer ? (
          <>
            <b>{counted(answer.changed, 'document')}</b> would change, of {count(answer.matched)} found. Nothing is written yet.
          </>
        ) : (
          'What it would do is shown here first.'
        )}
      </Box>
      <Button variant="contained" disabled={!canChange || !answer?.changed} onClick={onChange}>
        {answer?.changed ? `Change ${counted(answer.changed, 'document')}` : 'Change'}
      </Button>
    </Box>
  );
}
