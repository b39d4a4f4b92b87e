import { zodResolver } from '@hookform/resolvers/zod';
import { createCollection } from '@zesty-sieve/contract';
import { useForm } from 'react-hook-form';
import { FormField } from '../../parts/FormField.tsx';
import { useSavePipelineMutation } from '../../api/pipelines.ts';
import { problemText } from '../../api/problems.ts';
import { useAppSelector } from '../../app/store.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import type { PullOutProps } from './pullOutProps.ts';
import { parametersFor } from '../../state/bench/parameters.ts';

/** A view is named as a collection is, whose place it takes. */
const named = createCollection.pick({ name: true });

export function PullOutDialog({ lines, text, onDone, onClose }: PullOutProps & { onClose: () => void }) {
  const { control, handleSubmit, formState } = useForm({ mode: 'onChange', resolver: zodResolver(named), defaultValues: { name: '' } });
  const [save, { error, isLoading }] = useSavePipelineMutation();
  const parameters = useAppSelector(({ bench }) => bench.parameters);
  const submit = handleSubmit(async ({ name }) => {
    const done = await save({ name, pipeline: `${text}\n`, view: true, parameters: parametersFor(parameters) });
    if (done.error) return;
    onClose();
    onDone(name);
  });
  return (
    <FormDialog
      title={`Pull ${lines} out as a view`}
      action="Pull out"
      canSubmit={formState.isValid && !isLoading}
      onSubmit={submit}
      onClose={onClose}
    >
      <FormField
        autoFocus
        label="Name of the view"
        control={control}
        name="name"
        error={error !== undefined}
        helperText={error ? problemText(error) : 'A letter, then letters, digits, _ and -. Other pipelines can read it too.'}
      />
    </FormDialog>
  );
}
