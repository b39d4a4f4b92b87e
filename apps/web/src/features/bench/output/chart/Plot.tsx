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
import { sansFont, veil, type Roles } from '../../../../app/theme.ts';
import { workedOut } from '../../../../parts/numbers.ts';
import type { ChartData, ChartPoint } from './chartData.ts';
import type { ChartSettings } from '../../../../state/bench/chartSettings.ts';

function seriesColours(roles: Roles): readonly string[] {
  return [roles.flowStrong, roles.join, roles.index, roles.memory, roles.other, roles.scan, roles.path, roles.softInk];
}

/** Bars are told apart by their names: so few get all of them, slanted where they would not fit beside each other. */
const barsNamed = 30;
const lettersBeside = 60;

function wantsSlant(names: readonly string[]): boolean {
  return names.length <= barsNamed && names.length * Math.max(...names.map(({ length }) => length)) > lettersBeside;
}

const longestName = 16;
const slantedTicks = {
  interval: 0,
  angle: -32,
  textAnchor: 'end',
  height: 76,
  tickFormatter: (name: unknown) => {
    const text = String(name);
    return text.length > longestName ? `${text.slice(0, longestName - 1)}…` : text;
  },
} as const;

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
  const points = [...data.points];
  const fontSize = 11.5;
  const axes = [
    <CartesianGrid key="grid" stroke={roles.line} vertical={false} />,
    <YAxis key="up" stroke={roles.softInk} fontSize={fontSize} width={64} name={upLabel} tickFormatter={workedOut} label={{ value: upLabel, angle: -90, position: 'insideLeft', fontSize, fill: roles.softInk, style: { textAnchor: 'middle' } }} />,
    <Tooltip key="tip" contentStyle={{ fontSize: 12, borderRadius: 8, borderColor: roles.line, background: roles.surface }} itemStyle={{ color: roles.ink }} cursor={{ fill: veil(roles.flowSoft, 0.35), stroke: roles.line }} formatter={(value) => (typeof value === 'number' ? workedOut(value) : String(value))} isAnimationActive={false} />,
    ...(series.length > 1 ? [<Legend key="legend" wrapperStyle={{ fontSize }} formatter={(name) => <span style={{ color: roles.ink }}>{name}</span>} />] : []),
  ]; // prettier-ignore
  const slanted = settings.kind === 'bars' && wantsSlant(points.map(({ x }) => String(x)));
  const across = <XAxis key="across" dataKey="x" stroke={roles.softInk} fontSize={fontSize} name={acrossLabel} {...(slanted ? slantedTicks : { minTickGap: 16 })} />; // prettier-ignore
  const frame = { margin: { top: 12, right: 24, bottom: 8, left: 8 }, style: { fontFamily: sansFont } };
  const colour = (i: number) => colours[i % colours.length];
  const plots: Record<ChartSettings['kind'], ReactElement> = {
    bars: (
      <BarChart data={points} {...frame}>
        {axes}
        {across}
        {series.map((name, i) => (
          <Bar key={name} dataKey={(point: ChartPoint) => point.up[name]} name={name} stackId={settings.by === null ? undefined : 'all'} fill={colour(i)} isAnimationActive={false} />
        ))}
      </BarChart>
    ),
    line: (
      <LineChart data={points} {...frame}>
        {axes}
        {across}
        {series.map((name, i) => (
          <Line key={name} dataKey={(point: ChartPoint) => point.up[name]} name={name} stroke={colour(i)} strokeWidth={2} dot={points.length < 60} connectNulls isAnimationActive={false} />
        ))}
      </LineChart>
    ),
    points: (
      <ScatterChart {...frame}>
        {axes}
        <XAxis type="number" dataKey="x" stroke={roles.softInk} fontSize={fontSize} name={acrossLabel} tickFormatter={workedOut} domain={['auto', 'auto']} />
        {series.map((name, i) => (
          <Scatter key={name} name={name} data={points.filter(({ up }) => Object.hasOwn(up, name)).map(({ x, up }) => ({ x, y: up[name] }))} dataKey="y" fill={colour(i)} isAnimationActive={false} />
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
