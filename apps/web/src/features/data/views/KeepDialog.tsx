import type { SavedPipeline } from '@zesty-sieve/contract';
import { useState } from 'react';
import Box from '@mui/material/Box';
import { useSavePipelineMutation } from '../../../api/pipelines.ts';
import { problemText } from '../../../api/problems.ts';
import { FormDialog } from '../../../parts/FormDialog.tsx';
import { keepingOf, policyOf, usualSeconds } from '../../../parts/views/keeping.ts';
import { KeepFields } from '../../../parts/views/KeepFields.tsx';

/** Says whether the rows of a view are kept, and when they are made anew. */
export function KeepDialog({ view, onClose }: { readonly view: SavedPipeline; readonly onClose: () => void }) {
  const { name, pipeline, sql, parameters, guards, note, chart, materialized } = view;
  const refresh = materialized?.refresh;
  const [chosen, setChosen] = useState({
    keeping: materialized === null ? ('change' as const) : keepingOf(refresh),
    seconds: typeof refresh === 'object' ? refresh.everySeconds : usualSeconds,
  } as Parameters<Parameters<typeof KeepFields>[0]['onChange']>[0]);
  const [save, { error, isLoading }] = useSavePipelineMutation();
  const submit = async () => {
    const policy = policyOf(chosen.keeping, chosen.seconds);
    const done = await save({
      name,
      ...(sql === null ? { pipeline } : { sql }),
      view: true,
      materialized: policy && { refresh: policy },
      ...(parameters && { parameters }),
      ...(guards && { guards }),
      ...(note !== null && { note }),
      ...(chart !== null && { chart }),
    });
    if (!done.error) onClose();
  };
  return (
    <FormDialog
      title={`The rows of ${name}`}
      action={chosen.keeping === 'none' && materialized !== null ? 'Let go of them' : 'Save'}
      canSubmit={!isLoading && (chosen.keeping !== 'time' || chosen.seconds >= 1)}
      onSubmit={submit}
      onClose={onClose}
    >
      <KeepFields {...chosen} onChange={setChosen} of={{ pipeline, parameters: parameters ?? {} }} />
      {error !== undefined && <Box sx={{ color: 'error.main' }}>{problemText(error)}</Box>}
    </FormDialog>
  );
}
