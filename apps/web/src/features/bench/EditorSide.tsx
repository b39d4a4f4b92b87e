import type { EditorView } from '@codemirror/view';
import { checkPipeline, conditionParametersOf, parametersOf, usualSurface, type CheckedPipeline } from '@zesty-sieve/core/language';
import { useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import { Panel, PanelGroup } from 'react-resizable-panels';
import { useAppDispatch } from '../../app/store.ts';
import { ParametersBar } from '../../parts/asking/ParametersBar.tsx';
import { useEnvironment } from '../../parts/asking/useEnvironment.ts';
import { useStageText } from '../../parts/asking/useStageText.ts';
import { ResizeHandle } from '../../parts/ResizeHandle.tsx';
import { Editor } from '../../parts/editor/Editor.tsx';
import { format } from '../../parts/editor/commands.ts';
import { notationLanguage } from '../../parts/editor/languages.ts';
import { draftedOn, movedTo, opened, parametersTyped, typed } from '../../state/bench/benchSlice.ts';
import { typedFor } from '../../state/bench/parameters.ts';
import { useBench } from '../../state/bench/useBench.ts';
import { pipelineIn } from './codeOut.ts';
import type { Desk } from './desk.ts';
import { DraftBanner } from './DraftBanner.tsx';
import { changesAt, type LineChange } from './output/lineChanges.ts';
import { NoteBar } from './NoteBar.tsx';
import { useLater } from './useLater.ts';
import { FormPane, type StageWriting } from './FormPane.tsx';
import { RunBar } from './RunBar.tsx';
import { useMarginData } from './state/useMarginData.ts';
import { useDesk } from './useDesk.ts';
import { offeredFields, type OfferedField } from '../../parts/form/fields.ts';
import { useRuns } from './state/useRuns.ts';

interface EditorSideProps {
  /** What others ask of the text is put here. */
  readonly desk: RefObject<Desk>;
  /** Told when the line at the cursor does something else to the fields. */
  readonly onChanges: (changes: LineChange | undefined) => void;
  readonly onReference: () => void;
  readonly onTrace: () => void;
}

const nothingWrong: CheckedPipeline['diagnostics'] = [];

/** The text, its margin, and the form of the stage at the cursor: what is drawn again with each letter. */
export function EditorSide({ desk, onChanges, onReference, onTrace }: EditorSideProps) {
  const dispatch = useAppDispatch();
  const { text, tab, loaded, cursorLine, note, only, parameters } = useBench('text', 'tab', 'loaded', 'cursorLine', 'note', 'only', 'parameters'); // prettier-ignore
  const pipeline = useMemo(() => usualSurface.parse(text), [text]);
  const environment = useEnvironment(text);
  const checked = useMemo(() => checkPipeline(pipeline, environment), [pipeline, environment]);
  const { runInFull, stop } = useRuns(checked);
  // Nothing is wrong with what nobody has written yet; what comes with the page may be on its way.
  const diagnostics = useLater(text.trim() === '' ? nothingWrong : checked.diagnostics, text);
  const margin = useMarginData();
  const names = useMemo(() => parametersOf(pipeline), [pipeline]);
  const conditions = useMemo(() => givenConditions(checked), [checked]);
  const editor = useRef<EditorView>(null);
  const stageHere = checked.stages.findLast(({ placed }) => placed.line <= cursorLine);
  const { writeStage, writeNext, addStage } = useStageText(editor, stageHere);
  const settled = useSettled(checked, editor);
  const latest = useRef({ writeStage, writeNext, addStage });
  useEffect(() => {
    latest.current = { writeStage, writeNext, addStage };
  });
  const writing = useMemo(
    (): StageWriting => ({
      writeStage: (written) => latest.current.writeStage(written),
      writeNext: (written, replaces) => latest.current.writeNext(written, replaces),
      addStage: (written) => latest.current.addStage(written),
    }),
    [],
  );

  const changes = useMemo(() => changesAt(stageHere), [stageHere]);
  const told = JSON.stringify(changes);
  useEffect(() => {
    onChanges(told === undefined ? undefined : (JSON.parse(told) as LineChange));
  }, [told, onChanges]);

  useDesk(desk, editor, { text, parameters, checked, runInFull, addStage });

  return (
    <>
      <RunBar onRun={runInFull} onStop={stop} onFormat={() => editor.current && format(editor.current)} onReference={onReference} />
      {note !== null && <NoteBar>{note}</NoteBar>}
      {only.length > 0 && <DraftBanner identities={only} onBack={() => dispatch(draftedOn([]))} />}
      <ParametersBar names={names} conditions={conditions} parameters={parameters} onChange={(given) => dispatch(parametersTyped(given))} />
      <PanelGroup direction="vertical" autoSaveId="bench-editor" style={{ flex: 1, minHeight: 0 }}>
        <Panel defaultSize={58} minSize={20} style={{ display: 'flex', flexDirection: 'column', minHeight: 0 }}>
          <Editor
            language={notationLanguage}
            onReady={(view) => {
              editor.current = view;
            }}
            text={text}
            tab={tab}
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
              dispatch(opened({ text: call.pipeline ?? '', sql: call.sql ?? null, parameters: typedFor(call.parameters) }));
              return true;
            }}
          />
        </Panel>
        <ResizeHandle label="Height of the form" between="rows" />
        <Panel minSize={8} collapsible collapsedSize={0} style={{ display: 'flex', flexDirection: 'column', minHeight: 0 }}>
          <FormPane checked={settled} cursorLine={cursorLine} writing={writing} editor={editor} onTrace={onTrace} />
        </Panel>
      </PanelGroup>
    </>
  );
}

/** The parameters that stand for conditions, each with the fields that it may ask about. */
function givenConditions({ stages }: CheckedPipeline): ReadonlyMap<string, readonly OfferedField[]> {
  return new Map(
    stages.flatMap(({ placed, before }) =>
      placed.stage === undefined || placed.off
        ? []
        : conditionParametersOf([placed.stage]).map((name) => [name, offeredFields(before)] as const),
    ),
  );
}

const formPauseMs = 200;

/** A value that follows at once, but for letters that are typed in the editor: then when typing pauses. */
function useSettled<T>(value: T, editor: RefObject<EditorView | null>): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    if (editor.current?.hasFocus !== true) {
      setSettled(value);
      return undefined;
    }
    const timer = setTimeout(() => setSettled(value), formPauseMs);
    return () => clearTimeout(timer);
  }, [value, editor]);
  return settled;
}
