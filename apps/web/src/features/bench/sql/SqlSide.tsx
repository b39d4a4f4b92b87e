import type { EditorView } from '@codemirror/view';
import { lineAt } from '@zesty-sieve/core/language';
import type { LineChange } from '../output/lineChanges.ts';
import { useCallback, useEffect, useMemo, useRef, type RefObject } from 'react';
import { Panel, PanelGroup } from 'react-resizable-panels';
import { useAppDispatch } from '../../../app/store.ts';
import { ParametersBar } from '../../../parts/asking/ParametersBar.tsx';
import { Editor } from '../../../parts/editor/Editor.tsx';
import { formatSqlIn, sqlLanguage } from '../../../parts/editor/sql.ts';
import { ResizeHandle } from '../../../parts/ResizeHandle.tsx';
import { movedTo, opened, parametersTyped, sqlTyped } from '../../../state/bench/benchSlice.ts';
import { typedFor } from '../../../state/bench/parameters.ts';
import { useBench, useIsOutdated } from '../../../state/bench/useBench.ts';
import { pipelineIn } from '../codeOut.ts';
import type { Desk } from '../desk.ts';
import { NoteBar } from '../NoteBar.tsx';
import { RunBar } from '../RunBar.tsx';
import { useRuns } from '../state/useRuns.ts';
import { useDesk } from '../useDesk.ts';
import { useLater } from '../useLater.ts';
import { BecamePane } from './BecamePane.tsx';
import { clauseAt, clauseOfLine, marginOf } from './clauses.ts';
import { useTableQuestion } from './useTableQuestion.ts';
import { useTranslation } from './useTranslation.ts';

interface SqlSideProps {
  readonly desk: RefObject<Desk>;
  readonly onChanges: (changes: LineChange | undefined) => void;
  readonly onReference: () => void;
}

/** The Bench in SQL: the question, its clauses numbered in the order in which they run, and the pipeline that it became. */
export function SqlSide({ desk, onChanges, onReference }: SqlSideProps) {
  const dispatch = useAppDispatch();
  const bench = useBench('sql', 'text', 'tab', 'loaded', 'cursorLine', 'note', 'parameters', 'clauses', 'whole');
  const { text, cursorLine, clauses, whole, parameters } = bench;
  const sql = bench.sql ?? '';
  const { environment, translation, checked, isAboutTables } = useTranslation(sql);
  const errors = translation.diagnostics.filter(({ severity }) => severity === 'error');
  const isBroken = errors.length > 0;
  const { runInFull, stop } = useRuns(checked, !isBroken && !isAboutTables);
  const askTables = useTableQuestion(sql, isAboutTables && errors.length === 0);
  const diagnostics = useLater(translation.diagnostics, sql);
  const stale = useIsOutdated();
  const editor = useRef<EditorView>(null);
  const run = useCallback(() => {
    if (isAboutTables) askTables();
    else if (!isBroken) runInFull();
  }, [isAboutTables, isBroken, askTables, runInFull]);

  useEffect(() => onChanges(undefined), [onChanges]);
  const nowhere = useCallback(() => undefined, []);
  useDesk(desk, editor, { text, parameters, checked, runInFull: run, addStage: nowhere });

  // The output is that of the clause at the cursor, whichever lines that has become by now.
  const head = useRef(sql.length);
  const follow = useCallback(
    (known: typeof clauses) => {
      const clause = clauseAt(known, head.current);
      if (clause !== undefined) dispatch(movedTo(Math.max(...clause.lines)));
    },
    [dispatch],
  );
  const clausesText = JSON.stringify(clauses);
  useEffect(() => follow(JSON.parse(clausesText) as typeof clauses), [clausesText, follow]);

  const here = clauseOfLine(clauses, cursorLine);
  const lineHere = here === undefined ? lineAt(sql, sql.trimEnd().length) : lineAt(sql, here.from);
  const margin = useMemo(() => {
    const { answer } = whole;
    const lines = answer === null ? [] : marginOf(sql, clauses, answer.result.lines);
    return { lines, bounded: answer?.result.bounded ?? false, stale: stale || isBroken, cursorLine: lineHere };
  }, [whole, sql, clauses, stale, isBroken, lineHere]);
  const names = useMemo(() => translation.parameters.map(({ name }) => name), [translation]);

  return (
    <>
      <RunBar
        onRun={run}
        onStop={stop}
        onFormat={() => editor.current && formatSqlIn(editor.current)}
        onReference={onReference}
        isBroken={isBroken}
      />
      {bench.note !== null && <NoteBar>{bench.note}</NoteBar>}
      <ParametersBar names={names} parameters={parameters} onChange={(given) => dispatch(parametersTyped(given))} />
      <PanelGroup direction="vertical" autoSaveId="bench-sql" style={{ flex: 1, minHeight: 0 }}>
        <Panel defaultSize={62} minSize={20} style={{ display: 'flex', flexDirection: 'column', minHeight: 0 }}>
          <Editor
            language={sqlLanguage}
            onReady={(view) => {
              editor.current = view;
            }}
            text={sql}
            tab={bench.tab}
            loaded={bench.loaded}
            cursorLine={lineHere}
            environment={environment}
            margin={margin}
            diagnostics={diagnostics}
            onText={(next) => dispatch(sqlTyped(next))}
            onLine={(_line, offset) => {
              head.current = offset;
              follow(clauses);
            }}
            onRun={run}
            onPaste={(pasted) => {
              const call = pipelineIn(pasted);
              if (call === undefined) return false;
              dispatch(opened({ text: call.pipeline ?? '', sql: call.sql ?? null, parameters: typedFor(call.parameters) }));
              return true;
            }}
          />
        </Panel>
        <ResizeHandle label="Height of what this became" between="rows" />
        <Panel minSize={8} collapsible collapsedSize={0} style={{ display: 'flex', flexDirection: 'column', minHeight: 0 }}>
          <BecamePane isBroken={isBroken} />
        </Panel>
      </PanelGroup>
    </>
  );
}
