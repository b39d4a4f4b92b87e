import { ThemeProvider } from '@mui/material/styles';
import { themes } from '../app/theme.ts';
import { chartData } from '../features/bench/output/chart/chartData.ts';
import { Plot } from '../features/bench/output/chart/Plot.tsx';
import { chartSettings } from '../state/bench/chartSettings.ts';

const labelOf = (id: string): string => (JSON.parse(id) as (string | number)[]).join('.');

/** The chart that was saved with the pipeline, where it can be read; it comes after everything else. */
export function PublishedChart({ rows, saved }: { readonly rows: readonly unknown[]; readonly saved: unknown }) {
  const { data: settings } = chartSettings.safeParse(saved);
  if (settings === undefined) return null;
  const isDark = matchMedia('(prefers-color-scheme: dark)').matches;
  return (
    <ThemeProvider theme={themes[isDark ? 'dark' : 'light']}>
      <Plot data={chartData(rows, settings)} settings={settings} acrossLabel={labelOf(settings.across)} upLabel={labelOf(settings.up)} />
    </ThemeProvider>
  );
}
