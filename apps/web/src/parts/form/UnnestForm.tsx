import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { readUnnest, writeUnnest, type CheckedStage, type UnnestForm as Unnesting, type UnnestStage } from '@zesty-sieve/core/language';
import { useMemo } from 'react';
import { isGivenName } from './ComputeForm.tsx';
import { offeredFields } from './fields.ts';
import { frame, Typed, Word } from './parts.tsx';

const decimals = new Intl.NumberFormat('en', { maximumFractionDigits: 1 });

/** The array that is taken apart, with how long it is, and what its elements are called. */
export function UnnestForm({ checked, stage, onText }: { checked: CheckedStage; stage: UnnestStage; onText: (text: string) => void }) {
  const fields = useMemo(
    () => offeredFields(checked.before).filter(({ info }) => info === undefined || (info.types.array ?? 0) > 0),
    [checked.before],
  );
  const now = readUnnest(stage);
  const { path, name, position } = now;
  const write = (next: Partial<Unnesting>) => onText(writeUnnest({ ...now, ...next }));
  const lengths = fields.find((field) => field.path === path)?.info?.arrayLengths;
  return (
    <Box sx={frame}>
      <Word word="unnest">one row for each element</Word>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <TextField
          select
          label="Array"
          value={fields.some((field) => field.path === path) ? path : ''}
          onChange={(event) => write({ path: event.target.value })}
          sx={{ width: 200, bgcolor: 'background.paper' }}
        >
          {fields.map((field) => (
            <MenuItem key={field.path} value={field.path}>
              {field.path}
            </MenuItem>
          ))}
        </TextField>
        as
        <Box sx={{ width: 130, display: 'flex' }}>
          <Typed label="Name of the element" value={name} isSound={isGivenName} onChange={(next) => write({ name: next })} />
        </Box>
      </Box>
      <Box sx={{ fontSize: 12.5, color: 'text.secondary', py: 1 }}>
        {lengths
          ? `It has ${lengths.least} to ${lengths.greatest} elements, ${decimals.format(lengths.mean)} on average: a row becomes about ${decimals.format(lengths.mean)}.`
          : 'How many elements it has is seen when it runs.'}
      </Box>
      <FormControlLabel
        control={<Checkbox size="small" checked={stage.keepEmpty} onChange={(event) => write({ keepEmpty: event.target.checked })} />}
        label="keep rows without elements"
      />
      <FormControlLabel
        control={
          <Checkbox
            size="small"
            checked={position !== undefined}
            onChange={(event) => write({ position: event.target.checked ? 'position' : undefined })}
          />
        }
        label="with the position of the element, from 0"
      />
    </Box>
  );
}
