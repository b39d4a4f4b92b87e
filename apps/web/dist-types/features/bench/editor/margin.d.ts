import { type Extension } from '@codemirror/state';
/** What the margin shows beside the line on which a stage begins. */
export interface MarginLine {
  readonly line: number;
  readonly rowsIn: number;
  readonly rowsOut: number;
  readonly timeMs: number;
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
export declare const setMargin: import('@codemirror/state').StateEffectType<MarginData>;
/** The width of the flow, 0 to 1: the logarithm of the rows, against that of the most rows of any line. */
export declare function flowWidth(rows: number, most: number): number;
/** The margin: beside each line the flow, the rows that come out, and the time. */
export declare const margin: Extension;
