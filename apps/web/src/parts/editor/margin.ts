import { RangeSet, StateEffect, StateField, type Extension, type Range, type Text } from '@codemirror/state';
import { EditorView, gutter, GutterMarker } from '@codemirror/view';
import { count, duration } from '../numbers.ts';

/** What the margin shows beside the line on which a stage begins. */
export interface MarginLine {
  readonly line: number;
  readonly rowsIn: number;
  readonly rowsOut: number;
  readonly timeMs: number;
  readonly timeIsEstimated?: true | undefined;
  readonly stoppedEarly: boolean;
  /** Which it is in the order in which the clauses run, from 1, where that is not the order in which they are written. */
  readonly order?: number;
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
    row.append(line?.order === undefined ? this.drawing() : this.numbered(line.order));
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

  /** A clause that runs at its own time: how much comes out of it, and when. */
  private numbered(order: number): Element {
    const bar = document.createElement('div');
    bar.className = 'zs-ordered';
    bar.style.setProperty('--width', `${Math.round(this.to * 100)}%`);
    const circle = document.createElement('i');
    circle.textContent = String(order);
    circle.title = order === 1 ? 'Runs first' : `Runs as number ${order}`;
    bar.append(circle);
    return bar;
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
  const isOrdered = lines[0]!.order !== undefined;
  const byLine = new Map(lines.map((line) => [line.line, line]));
  const last = lines[lines.length - 1]!.line;
  const markers: Range<GutterMarker>[] = [];
  let width = flowWidth(lines[0]!.rowsIn, most);
  for (let number = lines[0]!.line; number <= Math.min(doc.lines, last); number++) {
    const line = byLine.get(number);
    const next = line === undefined ? width : flowWidth(line.rowsOut, most);
    // Clauses have no flow from one to the next: they run in another order.
    if (isOrdered && line === undefined) continue;
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
export const margin = (onDrag: (view: EditorView, from: number, down: MouseEvent) => void): Extension => [
  marginField,
  gutter({
    class: 'zs-margin',
    markers: (view) => view.state.field(marginField),
    initialSpacer: () => new EmptyRow(),
    domEventHandlers: { mousedown: (view, block, event) => (onDrag(view, block.from, event as MouseEvent), true) },
  }),
];
