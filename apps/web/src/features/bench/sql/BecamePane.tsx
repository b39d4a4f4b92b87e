import Box from '@mui/material/Box';
import { useMemo } from 'react';
import { codeFont } from '../../../app/theme.ts';
import { NotationText } from '../../../parts/NotationText.tsx';
import { clauseOfLine } from './clauses.ts';
import { useBench } from '../../../state/bench/useBench.ts';

/** The pipeline that a question in SQL became, line by line; those of the clause at the cursor stand out. */
export function BecamePane({ isBroken }: { isBroken: boolean }) {
  const { text, clauses, cursorLine } = useBench('text', 'clauses', 'cursorLine');
  const here = useMemo(() => new Set(clauseOfLine(clauses, cursorLine)?.lines), [clauses, cursorLine]);
  return (
    <Box
      component="section"
      aria-label="What this became"
      tabIndex={0}
      sx={{ flex: 1, minHeight: 0, overflow: 'auto', bgcolor: (t) => t.roles.form, borderTop: 1, borderColor: 'divider', px: 2, py: 1.5 }}
    >
      <Box sx={{ fontSize: 12.5, pb: 1 }}>
        <b>What this became</b>{' '}
        <Box component="span" sx={{ color: 'text.secondary' }}>
          {text === ''
            ? isBroken
              ? 'nothing yet'
              : 'nothing: it asks about tables, not about documents'
            : isBroken
              ? 'when it could be read last'
              : 'the pipeline that runs'}
        </Box>
      </Box>
      {text !== '' &&
        text.split('\n').map((line, i) => (
          <Box
            key={i}
            sx={{
              display: 'flex',
              gap: 1.5,
              fontFamily: codeFont,
              fontSize: 12.5,
              lineHeight: '22px',
              ...(here.has(i + 1) && { bgcolor: (t) => t.roles.flowSoft }),
            }}
          >
            <Box component="span" sx={{ width: 18, textAlign: 'right', color: (t) => t.roles.zest, flex: 'none' }}>
              {i + 1}
            </Box>
            <Box component="span" sx={{ whiteSpace: 'pre-wrap', minWidth: 0, overflowWrap: 'anywhere' }}>
              <NotationText line={line} />
            </Box>
          </Box>
        ))}
    </Box>
  );
}
