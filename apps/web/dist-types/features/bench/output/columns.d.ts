/** A column of the table: a chain of field names from the row. */
export interface Column {
  readonly id: string;
  readonly names: readonly string[];
}
type Row = unknown;
/** The leaf paths of rows in order of first appearance: objects are spread, arrays are leaves. */
export declare function columnsOf(rows: readonly Row[]): Column[];
export declare function valueAt(row: Row, names: readonly string[]): unknown;
/** A value in the length of a cell. */
export declare function shortText(value: unknown): string;
export {};
