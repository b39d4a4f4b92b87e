import { zodResolver } from '@hookform/resolvers/zod';
import { useSnackbar } from 'notistack';
import { renamePipeline, savePipeline } from '@zesty-sieve/contract';
import { useEffect, useState } from 'react';
import { useForm } from 'react-hook-form';
import { FormCheck, FormField } from '../../parts/FormField.tsx';
import { usePipelinesQuery, useSavePipelineMutation } from '../../api/pipelines.ts';
import { problemText } from '../../api/problems.ts';
import { useAppDispatch, useAppStore } from '../../app/store.ts';
import { useBench } from '../../state/bench/useBench.ts';
import { parametersFor } from '../../state/bench/parameters.ts';
import { saved } from '../../state/bench/benchSlice.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { keepingOf, policyOf, usualSeconds, type Keeping } from '../../parts/views/keeping.ts';
import { KeepFields } from '../../parts/views/KeepFields.tsx';

/** What is asked of whoever saves; all else is as it stands on the Bench. */
const asked = savePipeline.pick({ note: true, view: true }).extend(renamePipeline.shape);

/** Saves the pipeline under a name: its own, or another for a copy. */
export function SaveDialog({ open, onClose }: { open: boolean; onClose: () => void }) {
  const store = useAppStore();
  const { name: ownName } = useBench('name');
  const { data: pipelines = [] } = usePipelinesQuery();
  const dispatch = useAppDispatch();
  const { enqueueSnackbar } = useSnackbar();
  const [save, { error, isLoading }] = useSavePipelineMutation();
  const { control, handleSubmit, reset, watch, formState } = useForm({
    mode: 'onChange',
    resolver: zodResolver(asked),
    defaultValues: { name: '', note: '', view: false },
  });
  const [kept, setKept] = useState<{ keeping: Keeping; seconds: number }>({ keeping: 'none', seconds: usualSeconds });
  useEffect(() => {
    if (!open) return;
    const { bench } = store.getState();
    const own = pipelines.find((one) => one.name === bench.name);
    const view = own?.view ?? false;
    const refresh = own?.materialized?.refresh;
    setKept({ keeping: keepingOf(refresh), seconds: typeof refresh === 'object' ? refresh.everySeconds : usualSeconds });
    reset({ name: bench.name ?? '', note: bench.note ?? '', view });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- filled in once, when it opens
  }, [open]);
  const ofBench = () => {
    const { text, parameters } = store.getState().bench;
    return { pipeline: text, parameters: parametersFor(parameters) };
  };
  const name = watch('name').trim();
  const replaces = pipelines.some((one) => one.name === name) && name !== ownName;
  const submit = handleSubmit(async (given) => {
    const { bench } = store.getState();
    const note = given.note?.trim() ?? '';
    const policy = given.view ? policyOf(kept.keeping, kept.seconds) : null;
    const done = await save({
      name: given.name,
      ...(bench.sql === null ? { pipeline: bench.text } : { sql: bench.sql }),
      view: given.view,
      materialized: policy && { refresh: policy },
      parameters: parametersFor(bench.parameters),
      ...(note !== '' && { note }),
      ...(bench.guards && { guards: bench.guards }),
      ...(bench.chart && { chart: { ...bench.chart } }),
    });
    if (done.error) return;
    if (given.view) enqueueSnackbar(`${given.name} is a view now: from ${given.name} reads it.`);
    dispatch(saved({ tab: bench.tab, name: given.name, note: note || null, text: bench.sql ?? bench.text }));
    onClose();
  });
  return (
    <FormDialog
      open={open}
      title="Save the pipeline"
      action={replaces ? 'Replace it' : 'Save'}
      canSubmit={formState.isValid && !isLoading && (kept.keeping !== 'time' || kept.seconds >= 1)}
      onSubmit={submit}
      onClose={onClose}
    >
      <FormField
        label="Name"
        control={control}
        name="name"
        autoFocus
        required
        error={error !== undefined}
        helperText={error ? problemText(error) : replaces ? 'There is one of that name, which this replaces.' : ' '}
      />
      <FormField label="What to notice (optional)" control={control} name="note" multiline minRows={2} />
      <FormCheck control={control} name="view" label="A view: other pipelines can read it by its name" />
      {watch('view') && <KeepFields {...kept} onChange={setKept} of={ofBench()} />}
    </FormDialog>
  );
}
