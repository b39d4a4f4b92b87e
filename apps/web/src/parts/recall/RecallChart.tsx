import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import type { RecallInfo } from '@zesty-sieve/contract';
import { CartesianGrid, LabelList, Line, LineChart, ReferenceLine, ResponsiveContainer, Tooltip, XAxis, YAxis } from 'recharts';
import { sansFont } from '../../app/theme.ts';
import { count, duration, percent } from '../numbers.ts';
import { tensAround } from '../tensAround.ts';

type Point = RecallInfo['points'][number];

interface RecallChartProps {
  readonly recall: RecallInfo;
  /** The effort that is chosen; points are buttons where one can be. */
  readonly chosen?: number | null | undefined;
  readonly onChoose?: ((effort: number) => void) | undefined;
}

/** The share of the true best against the time that it takes, a point an effort; a line where the exact answer stands. */
export function RecallChart({ recall: { points, exact, n }, chosen, onChoose }: RecallChartProps) {
  const { roles } = useTheme();
  const axis = { stroke: roles.softInk, fontSize: 11.5, type: 'number' as const };
  const lowest = Math.floor(Math.min(0.9, ...points.map(({ recall }) => recall)) * 10) / 10;
  const scale = tensAround([exact.timeMs, ...points.map(({ timeMs }) => timeMs)]);
  const dot = ({ cx, cy, payload }: { cx?: number; cy?: number; payload?: Point }) => {
    if (payload === undefined || cx === undefined || cy === undefined) return <g />;
    const isChosen = payload.effort === chosen;
    return (
      <circle
        key={payload.effort}
        cx={cx}
        cy={cy}
        r={isChosen ? 6.5 : 4.5}
        fill={isChosen ? roles.surface : roles.flowStrong}
        stroke={roles.flowStrong}
        strokeWidth={isChosen ? 3 : 1}
        cursor={onChoose && 'pointer'}
        onClick={() => onChoose?.(payload.effort)}
      />
    );
  };
  return (
    <Box
      role="img"
      aria-label={`Recall of the best ${n} against time, ${points.map((one) => `effort ${one.effort}: ${percent(one.recall)} in ${duration(one.timeMs)}`).join('; ')}`}
      sx={{ height: 190, width: '100%' }}
    >
      <ResponsiveContainer>
        <LineChart data={[...points]} margin={{ top: 16, right: 28, bottom: 18, left: 8 }} style={{ fontFamily: sansFont }}>
          <CartesianGrid stroke={roles.line} />
          <XAxis
            dataKey="timeMs"
            scale="log"
            {...scale}
            tickFormatter={duration}
            label={{ value: 'time of a question', position: 'insideBottom', offset: -8, fontSize: 11.5, fill: roles.softInk }}
            {...axis}
          />
          <YAxis width={64} domain={[lowest, 1]} tickCount={Math.round((1 - lowest) * 10) + 2} tickFormatter={percent} {...axis} />
          <ReferenceLine
            x={exact.timeMs}
            stroke={roles.softInk}
            strokeDasharray="4 4"
            label={{ value: 'exact', position: 'insideTopRight', fontSize: 11.5, fill: roles.softInk }}
          />
          <Tooltip isAnimationActive={false} content={({ payload }) => <Told point={payload?.[0]?.payload as Point | undefined} n={n} />} />
          <Line dataKey="recall" stroke={roles.flowStrong} strokeWidth={2} dot={dot} activeDot={false} isAnimationActive={false}>
            <LabelList dataKey="effort" position="bottom" offset={8} fontSize={11} fill={roles.ink} />
          </Line>
        </LineChart>
      </ResponsiveContainer>
    </Box>
  );
}

function Told({ point, n }: { readonly point: Point | undefined; readonly n: number }) {
  if (point === undefined) return null;
  return (
    <Box sx={{ p: 1, fontSize: 12, bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}>
      <b>effort {count(point.effort)}</b>: {percent(point.recall)} of the best {n}, {duration(point.timeMs)}, {count(point.compared)} vectors compared
    </Box>
  );
} // prettier-ignore
