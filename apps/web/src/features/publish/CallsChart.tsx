import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import type { HourFigures } from '@zesty-sieve/contract';
import { Bar, BarChart, Legend, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { sansFont } from '../../app/theme.ts';
import { timeText } from '../../parts/dates.ts';
import { count } from '../../parts/numbers.ts';

const hourMs = 3_600_000;
const mostHours = 48;

/** Every hour from the first on, those without calls among them; the last two days. */
function hoursOf(
  figures: readonly HourFigures[],
): readonly { readonly at: string; readonly kept: number; readonly worked: number; readonly failed: number }[] {
  const known = new Map(figures.map((one) => [Date.parse(one.from), one]));
  const last = Math.floor(Date.now() / hourMs) * hourMs;
  const first = Math.max(last - (mostHours - 1) * hourMs, Math.min(last - 11 * hourMs, ...known.keys()));
  return Array.from({ length: (last - first) / hourMs + 1 }, (_, i) => {
    const at = first + i * hourMs;
    const { calls = 0, fromCache = 0, failures = 0 } = known.get(at) ?? {};
    const date = new Date(at);
    return {
      at: `${date.toLocaleDateString('en', { weekday: 'short' })} ${timeText(date.toISOString())}`,
      kept: fromCache,
      worked: Math.max(0, calls - fromCache - failures),
      failed: failures,
    };
  });
}

/** Calls by the hour: how many were answered from what is kept, how many were worked out, and how many failed. */
export function CallsChart({ figures }: { readonly figures: readonly HourFigures[] }) {
  const { roles } = useTheme();
  return (
    <Box role="img" aria-label="Calls by the hour" sx={{ height: 150, mx: 2.5, mb: 1.5, bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 2 }}>
      <ResponsiveContainer>
        <BarChart data={[...hoursOf(figures)]} margin={{ top: 10, right: 16, bottom: 0, left: 0 }} style={{ fontFamily: sansFont }}>
          <XAxis dataKey="at" stroke={roles.softInk} fontSize={11} minTickGap={40} />
          <YAxis stroke={roles.softInk} fontSize={11} width={52} allowDecimals={false} tickFormatter={count} />
          <Tooltip isAnimationActive={false} contentStyle={{ fontSize: 12, borderRadius: 8, borderColor: roles.line, background: roles.surface }} itemStyle={{ color: roles.ink }} cursor={{ fill: roles.line }} />
          <Legend wrapperStyle={{ fontSize: 11.5 }} formatter={(name) => <span style={{ color: roles.ink }}>{name}</span>} />
          <Bar dataKey="kept" name="from what is kept" stackId="calls" fill={roles.join} isAnimationActive={false} />
          <Bar dataKey="worked" name="worked out" stackId="calls" fill={roles.flowStrong} isAnimationActive={false} />
          {figures.some(({ failures }) => failures > 0) && <Bar dataKey="failed" name="failed" stackId="calls" fill={roles.scan} isAnimationActive={false} />}
        </BarChart>
      </ResponsiveContainer>
    </Box>
  );
} // prettier-ignore
