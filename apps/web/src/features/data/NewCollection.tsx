import { zodResolver } from '@hookform/resolvers/zod';
import { createCollection } from '@zesty-sieve/contract';
import { useForm } from 'react-hook-form';
import { FormCheck, FormField } from '../../parts/FormField.tsx';
import { useCreateCollectionMutation } from '../../api/collections.ts';
import { problemText } from '../../api/problems.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';

/** Makes a collection. */
export function NewCollection({ open, onClose, onMade }: { open: boolean; onClose: () => void; onMade: (name: string) => void }) {
  const { control, handleSubmit, reset, formState } = useForm({
    mode: 'onChange',
    resolver: zodResolver(createCollection),
    defaultValues: { name: '', identity: '@.id', scratch: false },
  });
  const { isValid } = formState;
  const [create, { error, isLoading, reset: forget }] = useCreateCollectionMutation();
  const close = () => {
    forget();
    onClose();
  };
  const submit = handleSubmit(async (wanted) => {
    const made = await create(wanted);
    if (made.error) return;
    reset();
    close();
    onMade(wanted.name);
  });
  return (
    <FormDialog open={open} title="New collection" action="Make it" canSubmit={isValid && !isLoading} onSubmit={submit} onClose={close}>
      <FormField label="Name" control={control} name="name" autoFocus required helperText="A letter, then letters, digits, _ and -" />
      <FormField
        label="Identity"
        control={control}
        name="identity"
        required
        error={error !== undefined}
        helperText={
          error ? problemText(error) : 'The path of the value that is different in every document. A document without one is given one.'
        }
      />
      <FormCheck control={control} name="scratch" label="Scratch: only to look at, gone when the server stops" />
    </FormDialog>
  );
}
