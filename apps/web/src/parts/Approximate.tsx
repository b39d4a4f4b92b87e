import { dayText } from './dates.ts';
import Box from '@mui/material/Box';
import type { QueryAnswer } from '@zesty-sieve/contract';
import { count, percent } from './numbers.ts';

type Approximation = NonNullable<QueryAnswer['approximate']>;

/** How far an answer can be relied on that looked at some candidates alone. */
export function approximateText({ effort, recall, measuredAt }: Approximation): string {
  const said = `approximate: the best of ${count(effort)} candidates`;
  if (recall === undefined || measuredAt === undefined) return `${said}, recall not measured`;
  return `${said}, which found ${percent(recall)} of the true best when measured on ${dayText(measuredAt)}`;
}

/** Said of rows that may not be the true best, wherever they stand. */
export function Approximate({ approximate }: { readonly approximate: Approximation }) {
  return (
    <Box
      component="span"
      title={approximateText(approximate)}
      sx={{
        ml: 1,
        px: 1,
        py: 0.25,
        borderRadius: 1,
        fontSize: 12,
        border: '1px dashed',
        borderColor: 'secondary.main',
        color: 'secondary.main',
      }}
    >
      approximate: the best of {count(approximate.effort)} candidates
      {approximate.recall === undefined ? ', recall not measured' : `, recall ${percent(approximate.recall)}`}
    </Box>
  );
}
