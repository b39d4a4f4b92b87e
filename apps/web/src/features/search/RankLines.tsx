import Box from '@mui/material/Box';
import { useTheme } from '@mui/material/styles';
import type { Searched } from './useSearch.ts';

export const rowHeight = 48;
const width = 300;
const head = 36;
const columns = { words: 44, fused: 150, meaning: 256 } as const;

/** Each result as a line from its place in one ranking to its place in the next. */
export function RankLines({ searched: { results, byWords, byMeaning }, chosen }: { readonly searched: Searched; readonly chosen: number }) {
  const { roles } = useTheme();
  if (byWords === undefined || byMeaning === undefined) return null;
  const rows = results.length;
  const y = (place: number): number => head + (place - 0.5) * rowHeight;
  const placeIn = (ranking: readonly unknown[], identity: unknown): number | undefined => {
    const at = ranking.indexOf(identity);
    return at < 0 ? undefined : at + 1;
  };
  const lines = results.flatMap(({ identity }, i) => [
    { side: 'words' as const, from: placeIn(byWords, identity), to: i + 1, isChosen: i === chosen },
    { side: 'meaning' as const, from: placeIn(byMeaning, identity), to: i + 1, isChosen: i === chosen },
  ]);
  const colour = { words: roles.index, meaning: roles.call } as const;
  const summary = results.map(({ identity }, i) => `${i + 1}: by words ${placeIn(byWords, identity) ?? 'none'}, by meaning ${placeIn(byMeaning, identity) ?? 'none'}`).join('; ');
  return (
    <Box sx={{ width, flex: 'none', position: 'relative' }}>
      {(['words', 'fused', 'meaning'] as const).map((one) => (
        <Box key={one} sx={{ position: 'absolute', top: 10, left: columns[one], transform: 'translateX(-50%)', fontSize: 12, fontWeight: 650, whiteSpace: 'nowrap', color: one === 'fused' ? roles.zest : colour[one] }}>
          {one === 'fused' ? 'fused' : `by ${one}`}
        </Box>
      ))}
      <svg width={width} height={head + rows * rowHeight + 8} role="img" aria-label={`Places: ${summary}`}>
        {lines.map(({ side, from, to, isChosen }) => {
          if (from === undefined) return null;
          // What lies below the last row is led there, and its place is told.
          const isBelow = from > rows;
          const start = isBelow ? head + rows * rowHeight + 4 : y(from);
          const [x, end] = [columns[side], columns.fused];
          const bend = (x + end) / 2;
          return (
            <path
              key={`${side} ${to}`}
              d={`M ${x} ${start} C ${bend} ${start}, ${bend} ${y(to)}, ${end} ${y(to)}`}
              fill="none"
              stroke={colour[side]}
              strokeWidth={isChosen ? 4 : 1.75}
              strokeOpacity={isChosen ? 1 : isBelow ? 0.25 : 0.55}
              strokeDasharray={side === 'meaning' ? '6 4' : undefined}
            />
          );
        })}
        {lines.map(({ side, from, to }) =>
          from === undefined || from > rows ? null : side === 'words' ? (
            <g key={`${side} ${to}`}>
              <circle cx={columns.words} cy={y(from)} r={11} fill={roles.surface} stroke={colour.words} />
              <Place x={columns.words} y={y(from)} place={from} fill={roles.ink} />
            </g>
          ) : (
            <g key={`${side} ${to}`}>
              <rect x={columns.meaning - 11} y={y(from) - 11} width={22} height={22} rx={4} fill={roles.surface} stroke={colour.meaning} />
              <Place x={columns.meaning} y={y(from)} place={from} fill={roles.ink} />
            </g>
          ),
        )}
        {results.map(({ identity }, i) => (
          <g key={String(identity)}>
            <circle cx={columns.fused} cy={y(i + 1)} r={12} fill={roles.zest} />
            <Place x={columns.fused} y={y(i + 1)} place={i + 1} fill={roles.surface} />
          </g>
        ))}
      </svg>
    </Box>
  );
} // prettier-ignore

function Place({ x, y, place, fill }: { readonly x: number; readonly y: number; readonly place: number; readonly fill: string }) {
  return (
    <text x={x} y={y + 4} textAnchor="middle" fontSize={11} fontWeight={600} fill={fill}>
      {place}
    </text>
  );
}
