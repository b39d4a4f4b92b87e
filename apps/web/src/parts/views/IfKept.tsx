import Box from '@mui/material/Box';
import type { WhatIfAnswer } from '@zesty-sieve/contract';
import type { Json } from '@zesty-sieve/core/language';
import { useIfKeptQuery } from '../../api/pipelines.ts';
import { problemText } from '../../api/problems.ts';
import { Served } from '../Served.tsx';
import { counted, duration } from '../numbers.ts';
import { followText } from './keeping.ts';

interface IfKeptProps {
  readonly pipeline: string;
  readonly parameters: Readonly<Record<string, Json>>;
  /** Whether the rows are to be brought up with each change. */
  readonly follows: boolean;
}

/** Questions that are named; so much room is kept free for them before they are known. */
const shown = 3;

/** What lines would be if their rows were kept, before that is chosen: worked out once, and planned with. */
export function IfKept({ pipeline, parameters, follows }: IfKeptProps) {
  const { currentData, error } = useIfKeptQuery([{ pipeline, parameters }]);
  const [view] = currentData?.views ?? [];
  return (
    <Box role="status" sx={{ fontSize: 12.5, color: 'text.secondary', minHeight: 148 }}>
      {view === undefined && error === undefined && 'Working out what these lines would be …'}
      {error !== undefined && `What these lines would be is not known: ${problemText(error)}`}
      {view !== undefined && (
        <>
          {sentence(view, follows)}
          <Box sx={{ pt: 1 }}>
            {view.serves.length === 0
              ? 'Nothing that was asked before would read them unasked.'
              : `Of what was asked before, ${counted(view.serves.length, 'question')} would read them unasked:`}
          </Box>
          <Served
            label="What these rows would answer"
            questions={view.serves
              .slice(0, shown)
              .map(({ documentsRead, instead, ...one }) => ({ ...one, from: documentsRead, to: instead }))}
          />
          {view.serves.length > shown && <Box>and {view.serves.length - shown} more</Box>}
        </>
      )}
    </Box>
  );
}

function sentence({ rows, madeMs, follows, followCosts }: WhatIfAnswer['views'][number], isFollowed: boolean): string {
  const now = `${counted(rows, 'row')}, worked out in ${duration(madeMs)}.`;
  if (!isFollowed) return now;
  if (follows !== 'each change') return `${now} ${follows.replace(/^./, (first) => first.toUpperCase())}, after each change, and until then not used unasked.`;
  return `${now} They can follow each change, and be stored before it is acknowledged: ${followText(followCosts)}.`;
} // prettier-ignore
