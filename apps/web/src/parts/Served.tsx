import Box from '@mui/material/Box';
import { codeFont } from '../app/theme.ts';
import { count, counted } from './numbers.ts';

/** A question, what it reads, and what it would read. */
export interface ServedQuestion {
  readonly pipeline: string;
  readonly name: string | null;
  readonly runs: number;
  readonly from: number;
  readonly to: number;
}

/** Questions whose reads would be others, the ones that matter most first. Figures are estimates. */
export function Served({ questions, label }: { questions: readonly ServedQuestion[]; label: string }) {
  return (
    <Box component="ul" aria-label={label} sx={{ m: 0, p: 0, listStyle: 'none', fontSize: 12.5 }}>
      {questions.map(({ pipeline, name, runs, from, to }) => (
        <Box component="li" key={pipeline} sx={{ display: 'flex', gap: 1.5, py: 0.35, alignItems: 'baseline' }}>
          <Box
            title={pipeline}
            sx={{
              flex: 1,
              minWidth: 0,
              overflow: 'hidden',
              textOverflow: 'ellipsis',
              whiteSpace: 'nowrap',
              ...(name === null && { fontFamily: codeFont, fontVariantLigatures: 'none', fontSize: 11.5 }),
            }}
          >
            {name ?? pipeline.trim().split('\n').join(' · ')}
          </Box>
          <Box sx={{ color: 'text.secondary', whiteSpace: 'nowrap' }}>{runs > 0 ? counted(runs, 'run') : 'not run yet'}</Box>
          <Box sx={{ width: 190, textAlign: 'right', whiteSpace: 'nowrap' }}>
            {count(from)} → <b>≈ {count(to)}</b> read
          </Box>
        </Box>
      ))}
    </Box>
  );
}
