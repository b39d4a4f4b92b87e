import type { EditorView } from '@codemirror/view';
import type { CheckedStage } from '@zesty-sieve/core/language';
import { useMemo, type RefObject } from 'react';

const userEvent = 'input.form';

/** Edits of stages as edits of their text in an editor, so that undo and comments work as for typing. */
export function useStageText(editor: RefObject<EditorView | null>, stageHere: CheckedStage | undefined) {
  return useMemo(() => {
    const addAfter = (end: number, written: string) => {
      const insert = (end === 0 ? '' : '\n') + written;
      editor.current?.dispatch({
        changes: { from: end, insert },
        selection: { anchor: end + insert.length },
        userEvent,
        scrollIntoView: true,
      });
    };
    return {
      /** Puts another text in place of the stage at the cursor. Its comments stay. */
      writeStage: (written: string) => {
        const view = editor.current;
        if (view === null || stageHere === undefined) return;
        const { wordFrom, to, comments } = stageHere.placed;
        const insert = written + comments.map((comment) => `  ${comment.text}`).join('');
        if (view.state.sliceDoc(wordFrom, to) === insert) return;
        view.dispatch({ changes: { from: wordFrom, to, insert }, selection: { anchor: wordFrom }, userEvent });
      },
      /** Writes the line after the stage at the cursor: anew, in place of one that is there, or takes that one out. */
      writeNext: (written: string | undefined, replaces: CheckedStage | undefined) => {
        const view = editor.current;
        if (view === null || stageHere === undefined) return;
        const end = stageHere.placed.to;
        if (replaces !== undefined) {
          const changes = { from: end, to: replaces.placed.to, insert: written === undefined ? '' : `\n${written}` };
          view.dispatch({ changes, userEvent });
        } else if (written !== undefined) view.dispatch({ changes: { from: end, insert: `\n${written}` }, userEvent });
      },
      addStage: (written: string) => addAfter(stageHere?.placed.to ?? editor.current?.state.doc.length ?? 0, written),
    };
  }, [editor, stageHere]);
}
