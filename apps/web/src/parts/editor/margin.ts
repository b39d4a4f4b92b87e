import { RangeSet, StateEffect, StateField, type Extension, type Range, type Text } from '@codemirror/state';
import { EditorView, gutter, GutterMarker } from '@codemirror/view';
import { usualSurface } from '@zesty-sieve/core/language';
import { count, duration } from '../numbers.ts';
import { moveStageTo } from './commands.ts';

/** What the margin shows beside the line on which a stage begins. */
export interface MarginLine {
  readonly line: number;
  readonly rowsIn: number;
  readonly rowsOut: number;
  readonly timeMs: number;
  readonly timeIsEstimated?: true | undefined;
  readonly stoppedEarly: boolean;
}

export interface MarginData {
  readonly lines: readonly MarginLine[];
  /** Figures of a bounded run, which are not those of the whole. */
  readonly bounded: boolean;
  /** Figures of a text that has been changed since. */
  readonly stale: boolean;
  /** The line at which the cursor stands. */
  readonly cursorLine: number;
}

export const setMargin = StateEffect.define<MarginData>();

/** The width of the flow, 0 to 1: the logarithm of the rows, against that of the most rows of any line. */
export function flowWidth(rows: number, most: number): number {
  if (rows <= 0) return 0.02;
  return Math.max(0.06, Math.log1p(rows) / Math.log1p(Math.max(most, 1)));
}

class FlowMarker extends GutterMarker {
  readonly from: number;
  readonly to: number;
  readonly line: MarginLine | undefined;
  readonly data: MarginData;

  constructor(from: number, to: number, line: MarginLine | undefined, data: MarginData) {
    super();
    this.from = from;
    this.to = to;
    this.line = line;
    this.data = data;
  }

  override eq(other: FlowMarker): boolean {
    return this.from === other.from && this.to === other.to && this.line === other.line && this.data === other.data;
  }

  override toDOM(): HTMLElement {
    const row = document.createElement('div');
    const { line, data } = this;
    const here = line !== undefined && line.line === data.cursorLine;
    row.className = `zs-margin-row${data.bounded ? ' is-bounded' : ''}${data.stale ? ' is-stale' : ''}${here ? ' is-here' : ''}`;
    row.append(this.drawing());
    if (line === undefined) return row;
    const rows = document.createElement('b');
    rows.textContent = count(line.rowsOut);
    const time = document.createElement('span');
    time.textContent = duration(line.timeMs);
    row.append(rows, time);
    const more = line.stoppedEarly ? ', and stopped there: no more were wanted' : '';
    row.title = data.bounded
      ? `${count(line.rowsOut)} rows come out, of the first documents read`
      : `${count(line.rowsOut)} rows come out${more}; ${line.timeIsEstimated ? `about ${duration(line.timeMs)}, shared out by work: several lines were one loop` : duration(line.timeMs)}`;
    return row;
  }

  /** The silhouette of the flow over this line: from the width above to the width below. */
  private drawing(): Element {
    const svg = document.createElementNS('http://www.w3.org/2000/svg', 'svg');
    svg.setAttribute('viewBox', '0 0 100 100');
    svg.setAttribute('preserveAspectRatio', 'none');
    svg.setAttribute('aria-hidden', 'true');
    const path = document.createElementNS('http://www.w3.org/2000/svg', 'path');
    const [a, b] = [this.from * 50, this.to * 50];
    path.setAttribute(
      'd',
      `M${50 - a},0 C${50 - a},35 ${50 - b},30 ${50 - b},65 V100 H${50 + b} V65 C${50 + b},30 ${50 + a},35 ${50 + a},0 Z`,
    );
    svg.append(path);
    return svg;
  }
}

function markersOf(doc: Text, data: MarginData): RangeSet<GutterMarker> {
  const { lines } = data;
  if (lines.length === 0) return RangeSet.empty;
  const most = Math.max(...lines.map(({ rowsIn, rowsOut }) => Math.max(rowsIn, rowsOut)));
  const byLine = new Map(lines.map((line) => [line.line, line]));
  const last = lines[lines.length - 1]!.line;
  const markers: Range<GutterMarker>[] = [];
  let width = flowWidth(lines[0]!.rowsIn, most);
  for (let number = lines[0]!.line; number <= Math.min(doc.lines, last); number++) {
    const line = byLine.get(number);
    const next = line === undefined ? width : flowWidth(line.rowsOut, most);
    markers.push(new FlowMarker(width, next, line, data).range(doc.line(number).from));
    width = next;
  }
  return RangeSet.of(markers);
}

/** Figures move with the lines that they belong to while the text is changed, until there are new ones. */
const marginField = StateField.define<RangeSet<GutterMarker>>({
  create: () => RangeSet.empty,
  update(markers, transaction) {
    let next = markers.map(transaction.changes);
    for (const effect of transaction.effects) if (effect.is(setMargin)) next = markersOf(transaction.state.doc, effect.value);
    return next;
  },
});

class EmptyRow extends GutterMarker {
  override toDOM(): HTMLElement {
    const row = document.createElement('div');
    row.className = 'zs-margin-row';
    return row;
  }
}

/** The margin: beside each line the flow, the rows that come out, and the time. */
export const margin: Extension = [
  marginField,
  gutter({
    class: 'zs-margin',
    markers: (view) => view.state.field(marginField),
    initialSpacer: () => new EmptyRow(),
    domEventHandlers: { mousedown: (view, block, event) => (beginDrag(view, block.from, event as MouseEvent), true) },
  }),
];

/** A line is dragged in the margin to the place of another; a press without a move puts the cursor there. */
function beginDrag(view: EditorView, from: number, down: MouseEvent): void {
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
