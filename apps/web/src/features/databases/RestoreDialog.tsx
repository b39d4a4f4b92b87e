import LinearProgress from '@mui/material/LinearProgress';
import type { DatabaseInfo } from '@zesty-sieve/contract';
import { useRestoreDatabaseMutation } from '../../api/databases.ts';
import { problemText } from '../../api/problems.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { bytes } from '../../parts/numbers.ts';
import { Problem } from '../../parts/Problem.tsx';

interface RestoreDialogProps {
  readonly database: DatabaseInfo;
  readonly file: File;
  readonly onClose: () => void;
}

/** Puts a backup in the place of a database; what was there is kept. */
export function RestoreDialog({ database: { name }, file, onClose }: RestoreDialogProps) {
  const [restore, { error, isLoading }] = useRestoreDatabaseMutation();
  const submit = async () => {
    const done = await restore({ name, file }).unwrap().catch(() => undefined); // prettier-ignore
    if (done !== undefined) window.location.reload();
  };
  return (
    <FormDialog title={`Restore ${name}`} action="Check it and restore" canSubmit={!isLoading} onSubmit={submit} onClose={onClose}>
      <span>
        {file.name} ({bytes(file.size)}) is looked through first. Then it takes the place of {name}, and what is there now is kept as a
        database of its own, {name}-before-…
      </span>
      {isLoading && <LinearProgress aria-label="Checking and restoring" />}
      {error !== undefined && <Problem text={problemText(error)} />}
    </FormDialog>
  );
}
