import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Json } from '@zesty-sieve/core/language';
import { IfKept } from './IfKept.tsx';
import { keepings, type Keeping } from './keeping.ts';

/** The pipeline whose rows are to be kept. */
interface Kept {
  readonly pipeline: string;
  readonly parameters: Readonly<Record<string, Json>>;
}

interface Chosen {
  readonly keeping: Keeping;
  readonly seconds: number;
}

/** Whether the rows of a view are kept, and when they are made anew. */
export function KeepFields({ keeping, seconds, onChange, of }: Chosen & { readonly onChange: (next: Chosen) => void; readonly of: Kept }) {
  return (
    <>
      <TextField
        select
        fullWidth
        label="Its rows"
        value={keeping}
        onChange={(event) => onChange({ keeping: event.target.value as Keeping, seconds })}
        helperText={
          keeping === 'none'
            ? 'Reading it costs what its lines cost.'
            : 'Questions that begin with these lines are answered from the kept rows, unasked, as long as they are up to date.'
        }
      >
        {Object.entries(keepings).map(([value, label]) => (
          <MenuItem key={value} value={value}>
            {label}
          </MenuItem>
        ))}
      </TextField>
      {keeping !== 'none' && <IfKept {...of} follows={keeping === 'change'} />}
      {keeping === 'time' && (
        <TextField
          type="number"
          label="Seconds between"
          value={Number.isNaN(seconds) ? '' : seconds}
          onChange={(event) => onChange({ keeping, seconds: event.target.value === '' ? NaN : Math.round(Number(event.target.value)) })}
          error={!(seconds >= 1)}
          helperText={seconds >= 1 ? 'It is made anew only where something has changed.' : 'A whole number, 1 or more.'}
          slotProps={{ htmlInput: { min: 1 } }}
        />
      )}
    </>
  );
}
