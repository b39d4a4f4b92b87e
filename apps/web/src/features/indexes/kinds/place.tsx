import TextField from '@mui/material/TextField';
import type { IndexKindView } from './kind.ts';

/** Places on the globe. */
export const place: IndexKindView<'place', string> = {
  title: 'Place',
  doc: 'What lies within a circle, and the nearest first.',
  empty: '',
  request: (path) => (path.trim() === '' ? undefined : { kind: 'place', keys: [path.trim()] }),
  Fields: ({ draft, wrong, onChange }) => (
    <TextField
      label="Path"
      placeholder="@.position"
      value={draft}
      onChange={(event) => onChange(event.target.value)}
      error={wrong !== undefined}
      helperText={wrong ?? 'To a GeoJSON Point, or to [longitude, latitude]'}
      sx={{ flex: 2, minWidth: 280 }}
    />
  ),
  heading: ({ keys }) => keys.join(', '),
  facts: () => ['place'],
  again: ({ keys }) => ({ kind: 'place', keys }),
};
