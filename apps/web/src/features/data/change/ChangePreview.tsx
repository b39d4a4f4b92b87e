import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { PreviewAnswer } from '@zesty-sieve/contract';
import { DiffView } from '../../../parts/DiffView.tsx';
import { IndexKeys } from '../../../parts/plan/IndexKeys.tsx';
import { indexesOf } from '../../../parts/plan/indexNames.ts';
import { Outdated } from '../../../parts/Outdated.tsx';
import { bytes, count, counted, duration } from '../../../parts/numbers.ts';
import { StepTable } from '../../../parts/plan/StepTable.tsx';
import { WayList } from '../../../parts/plan/WayList.tsx';
import { sampleSize } from './usePreview.ts';

/** What a change would do: warnings, what finding the documents costs, and the first documents before and after. */
export function ChangePreview({
  answer,
  isCurrent,
  offset,
  onOffset,
}: {
  answer: PreviewAnswer;
  isCurrent: boolean;
  offset: number;
  onOffset: (offset: number) => void;
}) {
  const { cost, suggestions, sample, changed } = answer;
  const [first] = suggestions;
  return (
    <Outdated
      isOutdated={!isCurrent}
      sx={{ flex: 1, minHeight: 0, overflow: 'auto', bgcolor: 'background.paper' }}
      tabIndex={0}
      aria-label="Preview"
    >
      <Warnings answer={answer} />
      <Box sx={{ px: 2, py: 1, fontSize: 12.5, color: 'text.secondary', borderBottom: 1, borderColor: 'divider' }}>
        Finding them read {counted(cost.documentsRead, 'document')} in {duration(cost.timeMs)}.
        {first && (
          <>
            {' '}
            {first.beside ? 'Indexes' : first.kind === undefined ? 'An index' : `A ${first.kind} index`} on{' '}
            <IndexKeys indexes={indexesOf(first)} /> would read about {count(first.documentsRead)}.
          </>
        )}
      </Box>
      <Box
        component="details"
        sx={{ borderBottom: 1, borderColor: 'divider', '& > summary': { px: 2, py: 0.75, fontSize: 12.5, cursor: 'pointer' } }}
      >
        <summary>The plan: how they are found, and what becomes of them</summary>
        <StepTable plan={answer.plan} />
        <WayList weighed={answer.weighed} />
      </Box>
      {sample.map(({ identity, before, after }) => (
        <Box
          key={identity}
          component="section"
          aria-label={`Document ${identity}`}
          sx={{ borderBottom: 1, borderColor: 'divider', py: 0.75 }}
        >
          <Box sx={{ px: 2, fontSize: 12, fontWeight: 650 }}>
            {identity}
            {after === null && <Box component="span" sx={{ color: 'error.main' }}> is deleted</Box> /* prettier-ignore */}
          </Box>
          <DiffView before={before} after={after} />
        </Box>
      ))}
      {changed > sampleSize && (
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1, px: 2, py: 1, fontSize: 12.5 }}>
          <Button size="small" disabled={offset === 0} onClick={() => onOffset(Math.max(0, offset - sampleSize))}>
            Before
          </Button>
          {count(offset + 1)} to {count(Math.min(changed, offset + sampleSize))} of {count(changed)}
          <Button size="small" disabled={!answer.hasMore} onClick={() => onOffset(offset + sampleSize)}>
            Next
          </Button>
        </Box>
      )}
      {changed === 0 && (
        <Box sx={{ p: 2, color: 'text.secondary' }}>
          {answer.matched === 0 ? 'No document meets the conditions.' : 'The documents found are so already: nothing would change.'}
        </Box>
      )}
    </Outdated>
  );
}

function Warnings({ answer }: { answer: PreviewAnswer }) {
  const texts = [
    ...answer.warnings.map(({ line, message }) => `Line ${line}: ${message}`),
    ...(answer.repeats > 0
      ? [
          `Made again, it would change ${answer.repeats === answer.changed ? 'the same' : counted(answer.repeats, 'document')} again: its conditions still hold afterwards.`,
        ]
      : []),
    ...answer.notes.map(({ line, message }) => `Line ${line}: ${message}`),
    ...(answer.keeps ? [] : [`What it replaces takes about ${bytes(answer.bytes)}, more than is kept: it could not be taken back.`]),
  ];
  if (texts.length === 0) return null;
  return (
    <Box
      component="ul"
      aria-label="Look at this first"
      sx={{
        m: 0,
        pl: 4,
        pr: 2,
        py: 1,
        fontSize: 12.5,
        color: 'secondary.main',
        borderBottom: 1,
        borderColor: 'divider',
        bgcolor: (t) => t.roles.form,
      }}
    >
      {texts.map((text) => (
        <li key={text}>{text}</li>
      ))}
    </Box>
  );
}
