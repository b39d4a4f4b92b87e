import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { ComparisonAnswer } from '@zesty-sieve/contract';
import { useState } from 'react';
import { approximateText } from './Approximate.tsx';
import { JsonView } from './JsonView.tsx';
import { count, counted } from './numbers.ts';

/** What the two results are called: `the first` and `the second`, say. */
export type ResultNames = readonly [first: string, second: string];

/** Whether two results have the same rows, in words. */
export function verdictOf({ sameSet, sameOrder, counts }: ComparisonAnswer, [first, second]: ResultNames): string {
  if (sameOrder) return 'The same rows in the same order.';
  if (sameSet) return 'The same rows, in another order.';
  const parts = [
    counts.onlyInFirst > 0 && `${counted(counts.onlyInFirst, 'row')} only in ${first}`,
    counts.onlyInSecond > 0 && `${counted(counts.onlyInSecond, 'row')} only in ${second}`,
    counts.differing > 0 && `${counted(counts.differing, 'row')} of the same identity that differ inside`,
  ];
  return `Not the same rows: ${parts.filter(Boolean).join(', ')}.`;
}

/** So many rows of each kind are shown. */
const shown = 20;

/** The verdict on two results, and on a click the rows in which they differ. */
export function RowDifferences({ comparison, names }: { comparison: ComparisonAnswer; names: ResultNames }) {
  const [isOpen, setOpen] = useState(false);
  const [first, second] = names;
  const { sameSet, counts, onlyInFirst, onlyInSecond, differing } = comparison;
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5 }}>
        <b>{verdictOf(comparison, names)}</b>
        {!sameSet && (
          <Button size="small" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)} sx={{ flex: 'none' }}>
            {isOpen ? 'Hide the rows' : 'Show the rows'}
          </Button>
        )}
      </Box>
      {comparison.approximate.map(
        (approximate, i) =>
          approximate && (
            <Box key={i} sx={{ fontSize: 12.5, color: 'secondary.main' }}>
              {names[i]} is {approximateText(approximate)}
            </Box>
          ),
      )}
      {isOpen && !sameSet && (
        <>
          <RowList title={`Only in ${first}`} rows={onlyInFirst} of={counts.onlyInFirst} />
          <RowList title={`Only in ${second}`} rows={onlyInSecond} of={counts.onlyInSecond} />
          <RowList
            title="Different inside"
            rows={differing.map((row) => ({ identity: row.identity, [first]: row.first, [second]: row.second }))}
            of={counts.differing}
          />
        </>
      )}
    </>
  );
}

function RowList({ title, rows, of }: { title: string; rows: readonly unknown[]; of: number }) {
  if (rows.length === 0) return null;
  const listed = rows.slice(0, shown);
  return (
    <Box role="group" aria-label={title} sx={{ pt: 1 }}>
      <b>{title}</b>
      {of > listed.length && `, the first ${count(listed.length)} of ${count(of)}`}
      {listed.map((row, i) => (
        <JsonView key={i} value={row} open={0} />
      ))}
    </Box>
  );
}
