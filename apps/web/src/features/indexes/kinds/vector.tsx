import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { vectorMetric } from '@zesty-sieve/contract';
import { counted } from '../../../parts/numbers.ts';
import { RecallDial } from '../../../parts/recall/RecallDial.tsx';
import type { IndexKindView } from './kind.ts';
import { PathField } from './PathField.tsx';

interface VectorDraft {
  readonly path: string;
  readonly metric: string;
}

const metricWords = { cosine: 'cosine: the angle', dot: 'dot product', euclidean: 'euclidean: the distance' } as const;

/** Vectors, and the nearest to another. */
export const vector: IndexKindView<'vector', VectorDraft> = {
  title: 'Vector',
  doc: 'The nearest vectors: exactly, or about and much faster where best says effort.',
  empty: { path: '', metric: 'cosine' },
  request: ({ path, metric }) => {
    const known = vectorMetric.safeParse(metric);
    return path.trim() === '' || !known.success ? undefined : { kind: 'vector', keys: [path.trim()], metric: known.data };
  },
  Fields: ({ draft, wrong, onChange }) => (
    <>
      <PathField
        label="Path"
        value={draft.path}
        placeholder="@.textVector"
        help="To an array of numbers"
        wrong={wrong}
        onPath={(path) => onChange({ ...draft, path })}
      />
      <TextField
        select
        label="Metric"
        value={draft.metric}
        onChange={(event) => onChange({ ...draft, metric: event.target.value })}
        helperText="What near means"
        sx={{ minWidth: 190 }}
      >
        {vectorMetric.options.map((one) => (
          <MenuItem key={one} value={one}>
            {metricWords[one]}
          </MenuItem>
        ))}
      </TextField>
    </>
  ),
  takesCondition: false,
  Summary: ({ collection, index, summary: { entries, dimensions, skipped, links, buildEffort } }) => (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <div>
        {counted(entries, 'vector')} of {dimensions} numbers, {links} links each, built with an effort of {buildEffort}
        {skipped > 0 && `; ${counted(skipped, 'array')} of another length, or with what is no number, stand in no graph`}
      </div>
      <RecallDial collection={collection} index={index} />
    </Box>
  ),
  heading: ({ keys }) => keys.join(', '),
  facts: ({ metric }) => ['vector', metric],
  again: ({ keys, metric, links, buildEffort }) => ({ kind: 'vector', keys, metric, links, buildEffort }),
};
