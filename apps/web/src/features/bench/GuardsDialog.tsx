import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { GuardLimits } from '@zesty-sieve/contract';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { problemText } from '../../api/problems.ts';
import { useSetSettingsMutation, useSettingsQuery } from '../../api/runs.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { guardsChosen } from '../../state/bench/benchSlice.ts';
import { useGuards } from './useGuards.ts';

const megabyte = 1024 * 1024;
const fields = [
  { key: 'timeMs', label: 'Time, in seconds', unit: 1_000 },
  { key: 'documentsRead', label: 'Documents read', unit: 1 },
  { key: 'memoryBytes', label: 'Held in memory, in MB', unit: megabyte },
] as const;

/** Where a run is stopped: for this pipeline, saved with it, or for all that set nothing of their own. */
export function GuardsDialog({ onClose }: { onClose: () => void }) {
  const now = useGuards();
  const own = useAppSelector(({ bench }) => bench.guards);
  const { data: settings } = useSettingsQuery();
  const [save, { isLoading }] = useSetSettingsMutation();
  const [scope, setScope] = useState<'pipeline' | 'all'>('pipeline');
  const shown = scope === 'pipeline' ? now : { ...now, ...settings?.guards };
  const [typed, setTyped] = useState<Partial<Record<keyof GuardLimits, string>>>({});
  const dispatch = useAppDispatch();
  const { enqueueSnackbar } = useSnackbar();
  const textOf = ({ key, unit }: (typeof fields)[number]) => typed[key] ?? String(shown[key] / unit);
  const isSound = fields.every((field) => textOf(field).trim() !== '' && Number(textOf(field)) >= 0) && Number(textOf(fields[0])) > 0;
  const submit = async () => {
    const changed = Object.fromEntries(
      fields.flatMap((field) => (typed[field.key] === undefined ? [] : [[field.key, Math.round(Number(typed[field.key]) * field.unit)]])),
    ) as Partial<GuardLimits>;
    if (scope === 'pipeline') dispatch(guardsChosen({ ...own, ...changed }));
    else {
      const done = await save({ guards: changed });
      if (done.error) {
        enqueueSnackbar(problemText(done.error), { variant: 'error' });
        return;
      }
    }
    onClose();
  };
  return (
    <FormDialog title="Where a run is stopped" action="Set" canSubmit={isSound && !isLoading} onSubmit={submit} onClose={onClose}>
      <TextField
        select
        label="For"
        value={scope}
        onChange={(event) => {
          setScope(event.target.value as typeof scope);
          setTyped({});
        }}
      >
        <MenuItem value="pipeline">this pipeline, and saved with it</MenuItem>
        <MenuItem value="all">every pipeline that sets none of its own</MenuItem>
      </TextField>
      {fields.map((field) => (
        <TextField
          key={field.key}
          type="number"
          label={field.label}
          value={textOf(field)}
          onChange={(event) => setTyped((before) => ({ ...before, [field.key]: event.target.value }))}
          slotProps={{ htmlInput: { min: 0, step: 'any' } }}
        />
      ))}
      <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
        A run that reaches a guard is ended, and says on which line, how far it came and what would help.
      </Box>
    </FormDialog>
  );
}
