import Box from '@mui/material/Box';
import { diffLines } from 'diff';
import { useMemo } from 'react';
import { codeFont, veil } from '../app/theme.ts';

const contextLines = 2;

interface Line {
  readonly sign: '+' | '-' | ' ' | '…';
  readonly text: string;
}

/** What differs between two values, as lines of their JSON, or of texts as they are; what is the same is shown for a few lines around. */
export function DiffView({ before, after }: { before: unknown; after: unknown }) {
  const lines = useMemo(() => linesOf(before, after), [before, after]);
  return (
    <Box
      component="pre"
      aria-label="Differences"
      sx={{
        m: 0,
        fontFamily: codeFont,
        fontVariantLigatures: 'none',
        fontSize: 12,
        lineHeight: 1.55,
        overflowX: 'auto',
        whiteSpace: 'pre-wrap',
        overflowWrap: 'anywhere',
      }}
    >
      {lines.map(({ sign, text }, i) => (
        <Box
          component="div"
          key={i}
          sx={{
            px: 1.5,
            display: 'flex',
            gap: 1,
            bgcolor: (t) => (sign === '+' ? veil(t.roles.join, 0.16) : sign === '-' ? veil(t.roles.scan, 0.11) : 'transparent'),
            color: sign === '…' || sign === ' ' ? 'text.secondary' : 'text.primary',
          }}
        >
          <Box component="span" sx={{ width: 10, flex: 'none', userSelect: 'none' }}>
            {sign === '-' ? '−' : sign}
          </Box>
          <span>{text}</span>
        </Box>
      ))}
    </Box>
  );
}

function textOf(value: unknown): string {
  if (value === null || value === undefined) return '';
  return `${typeof value === 'string' ? value : JSON.stringify(value, null, 2)}\n`;
}

function linesOf(before: unknown, after: unknown): Line[] {
  const all = diffLines(textOf(before), textOf(after)).flatMap(({ added, removed, value }): Line[] =>
    value
      .replace(/\n$/, '')
      .split('\n')
      .map((text) => ({ sign: added ? '+' : removed ? '-' : ' ', text })),
  );
  const near = (i: number) => all.slice(Math.max(0, i - contextLines), i + contextLines + 1).some(({ sign }) => sign !== ' ');
  const shown: Line[] = [];
  all.forEach((line, i) => {
    if (near(i)) shown.push(line);
    else if (shown[shown.length - 1]?.sign !== '…') shown.push({ sign: '…', text: '' });
  });
  return shown;
}
