import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { collectionName, type AdvisedView } from '@zesty-sieve/contract';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { useSavePipelineMutation } from '../../api/pipelines.ts';
import { problemText } from '../../api/problems.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { NotationText } from '../../parts/NotationText.tsx';
import { count, counted, duration } from '../../parts/numbers.ts';
import { followText } from '../../parts/views/keeping.ts';

/** Lines that were asked so often that their rows are worth keeping: what that would spare, and what it would cost. */
export function AdvisedViews({ views }: { readonly views: readonly AdvisedView[] }) {
  const [keeping, setKeeping] = useState<AdvisedView | null>(null);
  return (
    <>
      {views.map((view) => (
        <Box
          key={view.pipeline}
          role="group"
          aria-label="Worth keeping"
          sx={{ py: 0.75, display: 'flex', gap: 1.5, alignItems: 'flex-start', fontSize: 12.5 }}
        >
          <Box sx={{ flex: 1, minWidth: 0 }}>
            A view of these lines, kept, is {counted(view.rows, 'row')}: {counted(view.runs, 'run')} would have read{' '}
            <b>{count(view.documentsSaved)}</b> documents less.{' '}
            {view.follows === 'each change' ? (
              `Its rows follow each change before it is acknowledged: ${followText(view.followCosts)}.`
            ) : (
              <>
                After a change its rows are made anew in the background, which takes about {duration(view.refreshMs)}: {view.follows}.
              </>
            )}
            <Box sx={{ pt: 0.5 }}>
              {view.pipeline.split('\n').map((line, i) => (
                <Box key={i} sx={{ whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' }}>
                  <NotationText line={line} />
                </Box>
              ))}
            </Box>
          </Box>
          <Button variant="outlined" color="info" onClick={() => setKeeping(view)}>
            Keep its rows
          </Button>
        </Box>
      ))}
      {keeping !== null && <KeepAdvised view={keeping} onClose={() => setKeeping(null)} />}
    </>
  );
}

function KeepAdvised({ view, onClose }: { readonly view: AdvisedView; readonly onClose: () => void }) {
  const [name, setName] = useState(`${view.collection}_summary`);
  const [save, { error, isLoading }] = useSavePipelineMutation();
  const { enqueueSnackbar } = useSnackbar();
  const checked = collectionName.safeParse(name);
  const submit = async () => {
    const done = await save({ name, pipeline: view.pipeline, view: true, materialized: { refresh: 'on change' } });
    if (done.error) return;
    enqueueSnackbar(`${name} is kept: questions that begin with its lines are answered from it.`);
    onClose();
  };
  return (
    <FormDialog
      title="Keep the rows of these lines"
      action="Keep them"
      canSubmit={checked.success && !isLoading}
      onSubmit={submit}
      onClose={onClose}
    >
      <TextField
        fullWidth
        autoFocus
        label="Name of the view"
        value={name}
        onChange={(event) => setName(event.target.value)}
        error={!checked.success || error !== undefined}
        helperText={error ? problemText(error) : checked.success ? ' ' : checked.error.issues[0]!.message}
      />
    </FormDialog>
  );
}
