import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import { guards, type GuardLimits } from '@zesty-sieve/contract';
import { useSnackbar } from 'notistack';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { problemText } from '../../api/problems.ts';
import { useSetSettingsMutation, useSettingsQuery } from '../../api/runs.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { FormField } from '../../parts/FormField.tsx';
import { guardsChosen } from '../../state/bench/benchSlice.ts';
import { useGuards } from './useGuards.ts';

const megabyte = 1024 * 1024;
const fields = [
  { key: 'timeMs', label: 'Time, in seconds', unit: 1_000 },
  { key: 'documentsRead', label: 'Documents read', unit: 1 },
  { key: 'memoryBytes', label: 'Held in memory, in MB', unit: megabyte },
] as const;
type Field = (typeof fields)[number];

/** A limit as it is typed, in a person's unit: what it gives is what the contract's own field takes. */
const typedAs = ({ key, unit }: Field) =>
  z
    .string()
    .trim()
    .min(1, 'Say a number')
    .transform((text) => Math.round(Number(text) * unit))
    .pipe(guards.shape[key]);
const asked = z.object({
  scope: z.enum(['pipeline', 'all']),
  timeMs: typedAs(fields[0]),
  documentsRead: typedAs(fields[1]),
  memoryBytes: typedAs(fields[2]),
});

const textsOf = (limits: GuardLimits) => ({
  timeMs: String(limits.timeMs / fields[0].unit),
  documentsRead: String(limits.documentsRead),
  memoryBytes: String(limits.memoryBytes / megabyte),
});

/** Where a run is stopped: for this pipeline, saved with it, or for all that set nothing of their own. */
export function GuardsDialog({ onClose }: { onClose: () => void }) {
  const now = useGuards();
  const own = useAppSelector(({ bench }) => bench.guards);
  const { data: settings } = useSettingsQuery();
  const [save, { isLoading }] = useSetSettingsMutation();
  const { control, handleSubmit, reset, formState } = useForm({
    mode: 'onChange',
    resolver: zodResolver(asked),
    defaultValues: { scope: 'pipeline' as const, ...textsOf(now) },
  });
  const { isValid, dirtyFields } = formState;
  const dispatch = useAppDispatch();
  const { enqueueSnackbar } = useSnackbar();
  const submit = handleSubmit(async ({ scope, ...limits }) => {
    const changed: Partial<GuardLimits> = Object.fromEntries(fields.flatMap(({ key }) => (dirtyFields[key] ? [[key, limits[key]]] : [])));
    if (scope === 'pipeline') dispatch(guardsChosen({ ...own, ...changed }));
    else {
      const done = await save({ guards: changed });
      if (done.error) {
        enqueueSnackbar(problemText(done.error), { variant: 'error' });
        return;
      }
    }
    onClose();
  });
  return (
    <FormDialog title="Where a run is stopped" action="Set" canSubmit={isValid && !isLoading} onSubmit={submit} onClose={onClose}>
      <FormField
        select
        label="For"
        control={control}
        name="scope"
        onChosen={(scope) =>
          reset({ scope: asked.shape.scope.parse(scope), ...textsOf(scope === 'all' ? { ...now, ...settings?.guards } : now) })
        }
      >
        <MenuItem value="pipeline">this pipeline, and saved with it</MenuItem>
        <MenuItem value="all">every pipeline that sets none of its own</MenuItem>
      </FormField>
      {fields.map(({ key, label }) => (
        <FormField key={key} type="number" label={label} control={control} name={key} slotProps={{ htmlInput: { min: 0, step: 'any' } }} />
      ))}
      <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
        A run that reaches a guard is ended, and says on which line, how far it came and what would help.
      </Box>
    </FormDialog>
  );
}
