import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Json } from '@zesty-sieve/core/language';
import { useFollowsQuery } from '../../api/pipelines.ts';
import { duration } from '../numbers.ts';
import { keepings, type Keeping } from './keeping.ts';

/** The pipeline whose rows are to be kept. */
interface Kept {
  readonly pipeline: string;
  readonly parameters: Readonly<Record<string, Json>>;
  /** Milliseconds that working its rows out took last, where that is known. */
  readonly lastMs: number | null;
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
      {keeping === 'change' && <Follows {...of} />}
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

/** What keeping the rows up will take, before it is chosen. */
function Follows({ pipeline, parameters, lastMs }: Kept) {
  const { currentData: follows } = useFollowsQuery({ pipeline, parameters });
  if (follows === undefined) return null;
  const ms = lastMs === null ? '' : ` Worked out as a whole last, they took ${duration(lastMs)}.`;
  return (
    <Box role="status" sx={{ fontSize: 12.5, color: 'text.secondary', maxWidth: 380 }}>
      {follows === 'each change'
        ? `These lines can follow each change: what a changed document changes in the rows is stored before the change is acknowledged.${ms}`
        : `${follows.replace(/^./, (first) => first.toUpperCase())}, after each change, and until then not used unasked.${ms}`}
    </Box>
  );
}
