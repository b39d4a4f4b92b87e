import { z } from 'zod';

/** What a chart shows: columns by their identities. */
export const chartSettings = z.object({
  kind: z.enum(['bars', 'line', 'points']),
  across: z.string(),
  up: z.string(),
  /** A column whose values each have a series of their own, stacked where they are bars. */
  by: z.string().nullable(),
});
export type ChartSettings = Readonly<z.infer<typeof chartSettings>>;
export type ChartKind = ChartSettings['kind'];
