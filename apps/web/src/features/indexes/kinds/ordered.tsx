import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import { splitKeys } from '../../../parts/keys.ts';
import type { IndexKindView } from './kind.ts';
import { OrderedSummary } from './OrderedSummary.tsx';

interface OrderedDraft {
  readonly keys: string;
  readonly unique: boolean;
}

/** Entries in the order of keys. */
export const ordered: IndexKindView<'ordered', OrderedDraft> = {
  title: 'Ordered',
  doc: 'Equality, ranges, orders, and least and greatest, by keys in their order.',
  empty: { keys: '', unique: false },
  request: ({ keys, unique }) => (splitKeys(keys).length === 0 ? undefined : { kind: 'ordered', keys: splitKeys(keys), unique }),
  Fields: ({ draft, wrong, onChange }) => (
    <>
      <TextField
        label="Keys"
        placeholder="@.status, @.arrivesOn desc"
        value={draft.keys}
        onChange={(event) => onChange({ ...draft, keys: event.target.value })}
        error={wrong !== undefined}
        helperText={wrong ?? 'As in order by: the keys that are asked for by equality first, then the order or one range'}
        sx={{ flex: 2, minWidth: 280 }}
      />
      <FormControlLabel
        control={
          <Checkbox size="small" checked={draft.unique} onChange={(event) => onChange({ ...draft, unique: event.target.checked })} />
        }
        label="Unique"
        sx={{ order: 1 }}
      />
    </>
  ),
  takesCondition: true,
  Summary: OrderedSummary,
  heading: ({ keys }) => keys.join(', '),
  facts: ({ unique }) => (unique ? ['unique'] : []),
  again: ({ keys, unique }) => ({ kind: 'ordered', keys, unique }),
};
