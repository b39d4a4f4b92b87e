import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useSnackbar } from 'notistack';
import type { Answer, copiedCollection } from '@zesty-sieve/contract';
import { useRef, useState } from 'react';
import { databaseHere, databasesUrl } from '../../api/database.ts';
import { useDatabasesQuery } from '../../api/databases.ts';
import { followJob, JobFailed } from '../../api/job.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { count, counted } from '../../parts/numbers.ts';
import { Problem } from '../../parts/Problem.tsx';

type Copied = Answer<typeof copiedCollection>;
interface CopyProgress {
  readonly documents: number;
  readonly of: number;
  readonly index?: string;
}

/** Copies a collection into another database, with its indexes. */
export function CopyDialog({ collection, onClose }: { readonly collection: string; readonly onClose: () => void }) {
  const { data: databases = [] } = useDatabasesQuery();
  const here = databases.find((one) => (databaseHere === null ? one.isDefault : one.name === databaseHere));
  const others = databases.filter((one) => one !== here && one.damaged === null);
  const [to, setTo] = useState<string>();
  const [name, setName] = useState(collection);
  const [progress, setProgress] = useState<CopyProgress>();
  const [problem, setProblem] = useState<string>();
  const ending = useRef<AbortController>(null);
  const { enqueueSnackbar } = useSnackbar();
  const target = to ?? others[0]?.name ?? '';
  const submit = async () => {
    const controller = (ending.current = new AbortController());
    setProblem(undefined);
    setProgress({ documents: 0, of: 0 });
    const done = await followJob<Copied, CopyProgress>(databasesUrl(here?.name ?? '', 'copy-collection'), { collection, to: target, as: name }, { signal: controller.signal, onProgress: setProgress }).catch((error: unknown) => {
      if (!controller.signal.aborted) setProblem(error instanceof JobFailed ? error.message : 'The server does not answer. Is it still running?');
    }); // prettier-ignore
    setProgress(undefined);
    if (done === undefined) return;
    enqueueSnackbar(`${counted(done.documents, 'document')} and ${counted(done.indexes, 'index', 'indexes')} copied into ${target}.`);
    onClose();
  };
  return (
    <FormDialog
      title={`Copy ${collection}`}
      action="Copy"
      canSubmit={target !== '' && name !== '' && progress === undefined}
      onSubmit={submit}
      onClose={() => {
        // What was begun is not left half done: nothing of it stays there.
        ending.current?.abort();
        onClose();
      }}
    >
      {others.length === 0 && <span>There is no other database: make one by the menu beside the product’s name.</span>}
      <TextField
        select
        label="Into the database"
        value={target}
        onChange={(event) => setTo(event.target.value)}
        disabled={others.length === 0}
      >
        {others.map((one) => (
          <MenuItem key={one.name} value={one.name}>
            {one.name}
          </MenuItem>
        ))}
      </TextField>
      <TextField label="Its name there" value={name} onChange={(event) => setName(event.target.value)} />
      {progress !== undefined && (
        <div>
          <LinearProgress
            variant={progress.of === 0 ? 'indeterminate' : 'determinate'}
            value={(progress.documents / Math.max(1, progress.of)) * 100}
            aria-label="Copying"
          />
          {progress.index === undefined
            ? `${count(progress.documents)} of ${counted(progress.of, 'document')} copied`
            : `building the index ${progress.index}`}
        </div>
      )}
      {problem !== undefined && <Problem text={problem} />}
    </FormDialog>
  );
}
