import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import type { KeptRun } from '@zesty-sieve/contract';
import { CartesianGrid, ResponsiveContainer, Scatter, ScatterChart, Tooltip, XAxis, YAxis } from 'recharts';
import { sansFont } from '../../app/theme.ts';
import { count, duration } from '../../parts/numbers.ts';
import { tensAround } from '../../parts/tensAround.ts';

interface Point {
  readonly id: string;
  readonly read: number;
  readonly ms: number;
  readonly asked: string;
}

/** Documents read against time, both on scales of tens: what lies high and to the right is worth a look. */
export function RunChart({ runs, onOpen }: { runs: readonly KeptRun[]; onOpen: (id: string) => void }) {
  const { roles } = useTheme();
  const points = (wanted: boolean): Point[] =>
    runs
      .filter(({ guard }) => (guard !== null) === wanted)
      .map(({ id, cost, pipeline }) => ({
        id,
        // There is no place for nothing on a scale of tens.
        read: Math.max(1, cost.documentsRead),
        ms: Math.max(0.1, cost.timeMs),
        asked: pipeline.trim().split('\n').slice(0, 4).join('\n'),
      }));
  const all = [...points(false), ...points(true)];
  const axis = {
    stroke: roles.softInk,
    fontSize: 11.5,
    scale: 'log' as const,
    type: 'number' as const,
  };
  const open = (point: { payload?: unknown }) => onOpen((point.payload as Point).id);
  return (
    <Box
      role="img"
      aria-label={`Documents read against time of ${runs.length} runs`}
      sx={{ height: 190, px: 1.5, pt: 1, bgcolor: 'background.paper', borderBottom: 1, borderColor: 'divider' }}
    >
      <ResponsiveContainer>
        <ScatterChart margin={{ top: 8, right: 20, bottom: 18, left: 8 }} style={{ fontFamily: sansFont }}>
          <CartesianGrid stroke={roles.line} />
          <XAxis
            dataKey="read"
            name="documents read"
            tickFormatter={count}
            {...tensAround([1, ...all.map(({ read }) => read)])}
            label={{ value: 'documents read', position: 'insideBottom', offset: -8, fontSize: 11.5, fill: roles.softInk }}
            {...axis}
          />
          <YAxis dataKey="ms" name="time" width={64} tickFormatter={duration} {...tensAround([1, ...all.map(({ ms }) => ms)])} {...axis} />
          <Tooltip
            isAnimationActive={false}
            content={({ payload }) => {
              const [first] = payload ?? [];
              if (first === undefined) return null;
              const { asked, read, ms } = first.payload as Point;
              return (
                <Box
                  component="pre"
                  sx={{ m: 0, p: 1, fontSize: 11, bgcolor: 'background.paper', border: 1, borderColor: 'divider', borderRadius: 1 }}
                >
                  {asked}
                  {'\n'}
                  {count(read)} read in {duration(ms)}
                </Box>
              );
            }}
          />
          <Scatter
            data={points(false)}
            fill={roles.flowStrong}
            fillOpacity={0.75}
            onClick={open}
            cursor="pointer"
            isAnimationActive={false}
          />
          <Scatter data={points(true)} fill={roles.scan} shape="cross" onClick={open} cursor="pointer" isAnimationActive={false} />
        </ScatterChart>
      </ResponsiveContainer>
    </Box>
  );
}
