import { EditorView } from '@codemirror/view';
import { usualSurface } from '@zesty-sieve/core/language';

/**
 * A new line takes over the indentation of the one before. Once the words of a stage stand on it that the line before
 * cannot go on with, it is a stage of its own: the indentation goes, in the same step of undo as the space after the word.
 */
export const dedent = EditorView.inputHandler.of((view, from, to, text) => {
  const { state } = view;
  const line = state.doc.lineAt(from);
  if (text !== ' ' || from !== to || !/^\s+[a-z]+$/.test(state.sliceDoc(line.from, from))) return false;
  const after = state.sliceDoc(0, from) + text + state.sliceDoc(from);
  const mend = usualSurface
    .parse(after)
    .findings.find((finding) => finding.code === 'indented-stage' && finding.from > line.from && finding.from <= from)?.mend;
  if (mend === undefined) return false;
  // What is mended stands before the cursor.
  const changes = state.changes([...mend.edits, { from, insert: text }]);
  view.dispatch({ changes, selection: { anchor: changes.mapPos(from, 1) }, userEvent: 'input.type' });
  return true;
});
