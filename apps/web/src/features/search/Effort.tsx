import Box from '@mui/material/Box';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import TextField from '@mui/material/TextField';
import type { IndexInfo } from '@zesty-sieve/contract';
import { RecallDial } from '../../parts/recall/RecallDial.tsx';

interface EffortProps {
  readonly collection: string;
  /** The index on the vectors that are searched, where there is one. */
  readonly index: Extract<IndexInfo, { kind: 'vector' }> | undefined;
  readonly effort: number | null;
  readonly onEffort: (effort: number | null) => void;
}

const usualEffort = 100;

/** Whether the nearest vectors are found exactly, or about and faster: the dial tells what an effort finds. */
export function Effort({ collection, index, effort, onEffort }: EffortProps) {
  if (index === undefined)
    return <Box sx={{ color: 'text.secondary', fontSize: 12.5 }}>No vector index serves these vectors: all of them are compared, and the best are exact.</Box>;
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <RadioGroup row aria-label="How near ones are found" value={effort === null ? 'exact' : 'about'} onChange={(_, value) => onEffort(value === 'exact' ? null : usualEffort)}>
          <FormControlLabel value="exact" control={<Radio size="small" />} label="exactly" />
          <FormControlLabel value="about" control={<Radio size="small" />} label="about, with an effort of" />
        </RadioGroup>
        <TextField
          type="number"
          aria-label="Effort"
          disabled={effort === null}
          value={effort ?? ''}
          onChange={(event) => event.target.value !== '' && onEffort(Math.min(10_000, Math.max(1, Math.round(Number(event.target.value)))))}
          slotProps={{ htmlInput: { min: 1, max: 10_000, 'aria-label': 'Effort' } }}
          sx={{ width: 88 }}
        />
      </Box>
      <RecallDial collection={collection} index={index} chosen={effort} onChoose={onEffort} />
    </Box>
  );
} // prettier-ignore
