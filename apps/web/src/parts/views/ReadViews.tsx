import Box from '@mui/material/Box';
import type { QueryAnswer } from '@zesty-sieve/contract';
import { ageText } from './keeping.ts';

/** Said of an answer that kept rows have given: from which view, and of when they are where that is not now. */
export function ReadViews({ sources }: Pick<QueryAnswer, 'sources'>) {
  return sources.map(({ view, state, refreshedAt }) => {
    const isStale = state === 'stale';
    const age = refreshedAt === null ? '' : `, made ${ageText(Date.now() - Date.parse(refreshedAt))} ago`;
    return (
      <Box
        key={view}
        component="span"
        title={isStale ? 'Something that it is made of has changed since.' : 'Its rows are those that its lines give now.'}
        sx={{
          ml: 1,
          px: 1,
          py: 0.25,
          borderRadius: 1,
          fontSize: 12,
          border: isStale ? '1px dashed' : '1px solid',
          borderColor: (t) => (isStale ? t.palette.secondary.main : t.roles.flow),
          color: (t) => (isStale ? t.palette.secondary.main : t.roles.ink),
        }}
      >
        {isStale ? `from ${view}, which is out of date${age}` : `from the kept view ${view}`}
      </Box>
    );
  });
}
