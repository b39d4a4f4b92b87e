import type { EditorView } from '@codemirror/view';
import { usualSurface } from '@zesty-sieve/core/language';
import { moveStageTo } from './commands.ts';

/** A line is dragged in the margin to the place of another; a press without a move puts the cursor there. */
export function beginDrag(view: EditorView, from: number, down: MouseEvent): void {
  if (down.button !== 0) return;
  down.preventDefault();
  const stageAt = (position: number) =>
    usualSurface.parse(view.state.doc.toString()).stages.findLastIndex((stage) => stage.from <= position);
  const at = stageAt(view.state.doc.lineAt(from).to);
  const over = (event: MouseEvent) => {
    const position = view.posAtCoords({ x: view.contentDOM.getBoundingClientRect().left + 4, y: event.clientY }, false);
    return stageAt(view.state.doc.lineAt(position).to);
  };
  const move = (event: MouseEvent) => {
    view.dom.classList.toggle('zs-dragging', Math.abs(event.clientY - down.clientY) > 6);
  };
  const up = (event: MouseEvent) => {
    window.removeEventListener('mousemove', move);
    view.dom.classList.remove('zs-dragging');
    const to = over(event);
    if (at < 0 || to === at || Math.abs(event.clientY - down.clientY) <= 6)
      view.dispatch({ selection: { anchor: view.state.doc.lineAt(from).to } });
    else moveStageTo(view, at, to);
    view.focus();
  };
  window.addEventListener('mousemove', move);
  window.addEventListener('mouseup', up, { once: true });
}
