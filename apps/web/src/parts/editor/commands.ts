import type { EditorState } from '@codemirror/state';
import type { Command, EditorView } from '@codemirror/view';
import { type PlacedStage, usualSurface } from '@zesty-sieve/core/language';

function stageAtCursor(state: EditorState): PlacedStage | undefined {
  const { head } = state.selection.main;
  const line = state.doc.lineAt(head);
  return usualSurface.parse(state.doc.toString()).stages.findLast((stage) => stage.from <= line.to);
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
    const stages = usualSurface.parse(view.state.doc.toString()).stages;
    const at = stages.findIndex((stage) => stage.from === stageAtCursor(view.state)?.from);
    if (at >= 0) moveStageTo(view, at, at + by);
    return true;
  };
}

/** Puts a stage, with its continuation lines, in the place of another, which moves up or down by one. */
export function moveStageTo(view: EditorView, at: number, to: number): void {
  const { state } = view;
  const { stages } = usualSurface.parse(state.doc.toString());
  const moved = stages[at];
  if (moved === undefined || stages[to] === undefined || at === to) return;
  const order = [...stages];
  order.splice(at, 1);
  order.splice(to, 0, moved);
  const [first, last] = [Math.min(at, to), Math.max(at, to)];
  const text = (stage: PlacedStage) => state.sliceDoc(stage.from, stage.to);
  const offset = Math.max(0, state.selection.main.head - moved.from);
  // What stands between two stages stays between the places.
  const changes = stages.slice(first, last + 1).map((place, i) => ({ from: place.from, to: place.to, insert: text(order[first + i]!) }));
  const change = state.changes(changes);
  const start = change.mapPos(stages[to].from, -1);
  view.dispatch({
    changes: change,
    selection: { anchor: start + Math.min(offset, moved.to - moved.from) },
    userEvent: 'move.line',
    scrollIntoView: true,
  });
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
  const pipeline = usualSurface.parse(text);
  if (pipeline.findings.some(({ severity }) => severity === 'error')) return false;
  const insert = usualSurface.format(pipeline) + '\n';
  if (insert !== text)
    view.dispatch({
      changes: { from: 0, to: text.length, insert },
      selection: { anchor: samePlace(view.state.selection.main.head, pipeline.stages, usualSurface.parse(insert).stages) },
      userEvent: 'input.format',
    });
  return true;
}

/** About the same place in the same stage after the text was laid out anew: what is shown goes by the line of the cursor. */
function samePlace(head: number, before: readonly PlacedStage[], after: readonly PlacedStage[]): number {
  const at = before.findLastIndex(({ from }) => from <= head);
  if (at < 0) return 0;
  const { from, to } = after[at]!;
  return Math.min(to, from + (head - before[at]!.from));
}
