import { instantText } from '../dates.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import type { RecallInfo } from '@zesty-sieve/contract';
import { count, duration, percent } from '../numbers.ts';
import { RecallChart } from './RecallChart.tsx';
import { useRecall } from './useRecall.ts';

interface RecallDialProps {
  readonly collection: string;
  readonly index: { readonly name: string; readonly recall: RecallInfo | null };
  readonly chosen?: number | null | undefined;
  readonly onChoose?: (effort: number) => void;
}

/** How many of the true best an effort finds, and in what time: measured on the documents themselves. */
export function RecallDial({ collection, index: { name, recall }, chosen, onChoose }: RecallDialProps) {
  const { share, problem, start, cancel } = useRecall(collection, name);
  return (
    <Box role="group" aria-label={`Recall of ${name}`} sx={{ display: 'grid', gap: 0.75, maxWidth: 620 }}>
      {recall === null ? (
        <Box sx={{ color: 'text.secondary' }}>
          Not measured yet: how many of the true best an effort finds here, and in what time. Documents drawn at random are asked for, exactly and with each effort.
        </Box>
      ) : (
        <>
          <RecallChart recall={recall} chosen={chosen} onChoose={onChoose} />
          <Box sx={{ color: 'text.secondary', fontSize: 12 }}>
            The best {recall.n} of {count(recall.queries)} questions, measured {instantText(recall.measuredAt)}.
            Exactly: {duration(recall.exact.timeMs)}, {count(recall.exact.compared)} vectors compared.
            {onChoose && <EffortButtons recall={recall} chosen={chosen} onChoose={onChoose} />}
          </Box>
        </>
      )}
      {problem !== undefined && (
        <Box role="alert" sx={{ color: 'error.main' }}>
          {problem}
        </Box>
      )}
      {share === undefined ? (
        <Box>
          <Button variant="outlined" size="small" onClick={start}>
            {recall === null ? 'Measure the recall' : 'Measure again'}
          </Button>
        </Box>
      ) : (
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
          <LinearProgress variant="determinate" value={share * 100} aria-label="Measuring the recall" sx={{ flex: 1 }} />
          <span>{percent(share)}</span>
          <Button size="small" onClick={cancel}>
            Cancel
          </Button>
        </Box>
      )}
    </Box>
  );
} // prettier-ignore

/** The same as the points of the chart, for the keyboard. */
function EffortButtons({ recall: { points }, chosen, onChoose }: { recall: RecallInfo; chosen: number | null | undefined; onChoose: (effort: number) => void }) {
  return (
    <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', pt: 0.75 }}>
      {points.map(({ effort, recall, timeMs }) => (
        <Button
          key={effort}
          size="small"
          variant={effort === chosen ? 'contained' : 'outlined'}
          aria-pressed={effort === chosen}
          onClick={() => onChoose(effort)}
          title={`${percent(recall)} of the best in ${duration(timeMs)}`}
          sx={{ minWidth: 0, px: 1, py: 0 }}
        >
          {count(effort)}
        </Button>
      ))}
    </Box>
  );
} // prettier-ignore
