import type { EditorView } from '@codemirror/view';
import { formatSql, rowsAfter, type CheckedPipeline } from '@zesty-sieve/core/language';
import { useSnackbar } from 'notistack';
import { useEffect, type RefObject } from 'react';
import { useAppDispatch, useAppStore } from '../../app/store.ts';
import { opened } from '../../state/bench/benchSlice.ts';
import type { Desk } from './desk.ts';

interface Written {
  readonly text: string;
  readonly parameters: Readonly<Record<string, string>>;
  readonly checked: CheckedPipeline;
  readonly runInFull: () => void;
  readonly addStage: (text: string) => void;
}

/** Puts what others may ask of the text where they find it. */
export function useDesk(
  desk: RefObject<Desk>,
  editor: RefObject<EditorView | null>,
  { text, parameters, checked, runInFull, addStage }: Written,
): void {
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const { enqueueSnackbar } = useSnackbar();
  const { source } = checked;
  useEffect(() => {
    desk.current = {
      runInFull,
      addStage,
      mend: (edits) => {
        const mended = edits.map(({ from, to, insert }) => ({ from, to, insert }));
        editor.current?.dispatch({ changes: mended, userEvent: 'input.mend' });
      },
      /** Opens the pipeline that starts after a row, beside this one. */
      goOnAfter: (row) => {
        const made = rowsAfter(text, row, ['id'], (line) => checked.stages.find(({ placed }) => placed.line === line)?.before);
        if ('reason' in made) {
          enqueueSnackbar(made.reason, { variant: 'warning' });
          return;
        }
        dispatch(opened({ text: made.text, guards: store.getState().bench.guards, parameters }));
        if (made.addedTie) enqueueSnackbar('The identity was added as the last key, so that no tie is skipped or comes twice.');
      },
      tryExample: (example) => {
        const view = editor.current;
        if (view === null) return;
        const isSql = store.getState().bench.sql !== null;
        const isWhole = isSql || example.startsWith('from ') || source === undefined;
        if (!isWhole) {
          addStage(example);
          return;
        }
        const insert = isSql ? formatSql(example) : example.startsWith('from ') ? example : `from huts\n${example}`;
        view.dispatch({
          changes: { from: 0, to: view.state.doc.length, insert },
          selection: { anchor: insert.length },
          userEvent: 'input.example',
        });
      },
    };
  });
}
