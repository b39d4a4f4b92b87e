import { zodResolver } from '@hookform/resolvers/zod';
import { renamePipeline } from '@zesty-sieve/contract';
import { namedSources } from '@zesty-sieve/core/language';
import { useSnackbar } from 'notistack';
import { useForm } from 'react-hook-form';
import { FormField } from '../../parts/FormField.tsx';
import { usePipelinesQuery, useRenamePipelineMutation } from '../../api/pipelines.ts';
import { problemText } from '../../api/problems.ts';
import { useAppDispatch } from '../../app/store.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { renamed } from '../../state/bench/benchSlice.ts';

/** Gives a saved pipeline another name. Those that read it as a view are rewritten, and named before and after. */
export function RenamePipelineDialog({ name, onClose }: { name: string; onClose: () => void }) {
  const { control, handleSubmit, formState } = useForm({
    mode: 'onChange',
    resolver: zodResolver(renamePipeline),
    defaultValues: { name },
  });
  // Both are read each time: what is not read is not kept up.
  const { isDirty, isValid } = formState;
  const { data: pipelines = [] } = usePipelinesQuery();
  const [rename, { error, isLoading }] = useRenamePipelineMutation();
  const dispatch = useAppDispatch();
  const { enqueueSnackbar } = useSnackbar();
  const isView = pipelines.some((one) => one.name === name && one.view);
  const users = isView
    ? pipelines.filter((one) => one.name !== name && namedSources(one.pipeline).includes(name)).map((one) => one.name)
    : [];
  const submit = handleSubmit(async ({ name: next }) => {
    const done = await rename({ name, next });
    if (done.error) return;
    dispatch(renamed({ name, next: done.data.name }));
    const { rewritten } = done.data;
    enqueueSnackbar(
      `${name} is called ${done.data.name} now.${rewritten.length > 0 ? ` ${rewritten.join(', ')} read it under its new name.` : ''}`,
    );
    onClose();
  });
  const told = users.length > 0 ? `${users.join(', ')} read it, and will be rewritten.` : 'No other saved pipeline reads it.';
  return (
    <FormDialog title={`Rename ${name}`} action="Rename" canSubmit={isValid && isDirty && !isLoading} onSubmit={submit} onClose={onClose}>
      <FormField
        autoFocus
        label="Name"
        control={control}
        name="name"
        error={error !== undefined}
        helperText={error ? problemText(error) : told}
      />
    </FormDialog>
  );
}
