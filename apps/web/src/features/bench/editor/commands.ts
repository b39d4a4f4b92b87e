import type { EditorState } from '@codemirror/state';
import type { Command, EditorView } from '@codemirror/view';
import { parsePipeline, printPipeline, type PlacedStage } from '@zesty-sieve/core/language';

function stageAtCursor(state: EditorState): PlacedStage | undefined {
  const { head } = state.selection.main;
  const line = state.doc.lineAt(head);
  return parsePipeline(state.doc.toString()).stages.findLast((stage) => stage.from <= line.to);
}

/** Switches the stage at the cursor off, or on again. */
export const toggleOff: Command = (view) => {
  const stage = stageAtCursor(view.state);
  if (stage === undefined || stage.stage?.kind === 'from') return false;
  const changes = stage.off ? { from: stage.from, to: stage.wordFrom } : { from: stage.from, insert: 'off ' };
  view.dispatch({ changes, userEvent: 'input.off' });
  return true;
};

/** Moves the stage at the cursor, with its continuation lines, past its neighbour. */
export function moveStage(by: -1 | 1): Command {
  return (view) => {
    const { state } = view;
    const stages = parsePipeline(state.doc.toString()).stages;
    const current = stageAtCursor(state);
    const at = stages.findIndex((stage) => stage.from === current?.from);
    const neighbour = stages[at + by];
    if (current === undefined || neighbour === undefined) return true;
    const [upper, lower] = by < 0 ? [neighbour, current] : [current, neighbour];
    const text = (stage: PlacedStage) => state.sliceDoc(stage.from, stage.to);
    const offset = state.selection.main.head - current.from;
    const movedFrom = by < 0 ? upper.from : lower.to - (current.to - current.from);
    view.dispatch({
      changes: [
        { from: upper.from, to: upper.to, insert: text(lower) },
        { from: lower.from, to: lower.to, insert: text(upper) },
      ],
      selection: { anchor: movedFrom + Math.max(0, offset) },
      userEvent: 'move.line',
      scrollIntoView: true,
    });
    return true;
  };
}

/** Writes the stage at the cursor once more below itself. */
export const duplicateStage: Command = (view) => {
  const stage = stageAtCursor(view.state);
  if (stage === undefined || stage.stage?.kind === 'from') return false;
  const insert = `\n${view.state.sliceDoc(stage.from, stage.to)}`;
  view.dispatch({ changes: { from: stage.to, insert }, selection: { anchor: stage.to + insert.length }, userEvent: 'input.copy' });
  return true;
};

/** Puts the text into its canonical layout, where it can be read. */
export function format(view: EditorView): boolean {
  const text = view.state.doc.toString();
  const pipeline = parsePipeline(text);
  if (pipeline.findings.some(({ severity }) => severity === 'error')) return false;
  const insert = printPipeline(pipeline) + '\n';
  if (insert !== text)
    view.dispatch({
      changes: { from: 0, to: text.length, insert },
      selection: { anchor: Math.min(view.state.selection.main.head, insert.length) },
      userEvent: 'input.format',
    });
  return true;
}
