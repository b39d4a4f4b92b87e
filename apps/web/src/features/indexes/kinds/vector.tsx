import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { vectorMetric } from '@zesty-sieve/contract';
import type { IndexKindView } from './kind.ts';

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
      <TextField
        label="Path"
        placeholder="@.textVector"
        value={draft.path}
        onChange={(event) => onChange({ ...draft, path: event.target.value })}
        error={wrong !== undefined}
        helperText={wrong ?? 'To an array of numbers'}
        sx={{ flex: 2, minWidth: 240 }}
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
  heading: ({ keys }) => keys.join(', '),
  facts: ({ metric }) => ['vector', metric],
  again: ({ keys, metric, links, buildEffort }) => ({ kind: 'vector', keys, metric, links, buildEffort }),
};
