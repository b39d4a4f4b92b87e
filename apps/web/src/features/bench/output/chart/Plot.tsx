import { useTheme } from '@mui/material/styles';
import type { ReactElement } from 'react';
import {
  Bar,
  BarChart,
  CartesianGrid,
  Legend,
  Line,
  LineChart,
  ResponsiveContainer,
  Scatter,
  ScatterChart,
  Tooltip,
  XAxis,
  YAxis,
} from 'recharts';
import { sansFont, type Roles } from '../../../../app/theme.ts';
import { count } from '../../../../parts/numbers.ts';
import type { ChartData, ChartSettings } from './chartData.ts';

function seriesColours(roles: Roles): readonly string[] {
  return [roles.flowStrong, roles.join, roles.index, roles.memory, roles.other, roles.scan, roles.path, roles.quiet];
}

interface PlotProps {
  readonly data: ChartData;
  readonly settings: ChartSettings;
  readonly acrossLabel: string;
  readonly upLabel: string;
}

export function Plot({ data, settings, acrossLabel, upLabel }: PlotProps) {
  const { roles } = useTheme();
  const colours = seriesColours(roles);
  const { series } = data;
  const points = data.points as Record<string, string | number | null>[];
  const fontSize = 11.5;
  const axes = [
    <CartesianGrid key="grid" stroke={roles.line} vertical={false} />,
    <YAxis key="up" stroke={roles.softInk} fontSize={fontSize} width={64} tickFormatter={count} label={{ value: upLabel, angle: -90, position: 'insideLeft', fontSize, fill: roles.softInk, style: { textAnchor: 'middle' } }} />,
    <Tooltip key="tip" contentStyle={{ fontSize: 12, borderRadius: 8, borderColor: roles.line }} formatter={(value) => (typeof value === 'number' ? count(value) : String(value))} isAnimationActive={false} />,
    ...(series.length > 1 ? [<Legend key="legend" wrapperStyle={{ fontSize }} />] : []),
  ]; // prettier-ignore
  const across = <XAxis key="across" dataKey="x" stroke={roles.softInk} fontSize={fontSize} name={acrossLabel} minTickGap={16} />;
  const frame = { margin: { top: 12, right: 24, bottom: 8, left: 8 }, style: { fontFamily: sansFont } };
  const colour = (i: number) => colours[i % colours.length];
  const plots: Record<ChartSettings['kind'], ReactElement> = {
    bars: (
      <BarChart data={points} {...frame}>
        {axes}
        {across}
        {series.map((name, i) => (
          <Bar key={name} dataKey={(point: Record<string, number>) => point[name]} name={name} stackId={settings.by === null ? undefined : 'all'} fill={colour(i)} isAnimationActive={false} />
        ))}
      </BarChart>
    ),
    line: (
      <LineChart data={points} {...frame}>
        {axes}
        {across}
        {series.map((name, i) => (
          <Line key={name} dataKey={(point: Record<string, number>) => point[name]} name={name} stroke={colour(i)} strokeWidth={2} dot={points.length < 60} connectNulls isAnimationActive={false} />
        ))}
      </LineChart>
    ),
    points: (
      <ScatterChart {...frame}>
        {axes}
        <XAxis type="number" dataKey="x" stroke={roles.softInk} fontSize={fontSize} name={acrossLabel} tickFormatter={count} domain={['auto', 'auto']} />
        {series.map((name, i) => (
          <Scatter key={name} name={name} data={points.filter((point) => name in point).map((point) => ({ x: point.x, [upLabel]: point[name] }))} dataKey={(point: Record<string, number>) => point[upLabel]} fill={colour(i)} isAnimationActive={false} />
        ))}
      </ScatterChart>
    ),
  }; // prettier-ignore
  return (
    <ResponsiveContainer width="100%" height="100%">
      {plots[settings.kind]}
    </ResponsiveContainer>
  );
}
