export type ChartKind = 'bars' | 'line' | 'points';

/** What a chart shows: columns by their identities. */
export interface ChartSettings {
  readonly kind: ChartKind;
  readonly across: string;
  readonly up: string;
  /** A column whose values each have a series of their own, stacked where they are bars. */
  readonly by: string | null;
}
