import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { usePipelinesQuery } from '../../api/pipelines.ts';
import { usePutPublicationMutation } from '../../api/publications.ts';
import { problemText } from '../../api/problems.ts';
import { FormDialog } from '../../parts/FormDialog.tsx';
import { describedFor } from './draft.ts';

const nameFor = (pipeline: string): string => pipeline.toLowerCase().replace(/[^a-z0-9_]+/g, '-').replace(/^-+|-+$/g, '').slice(0, 64); // prettier-ignore

interface NewPublicationProps {
  readonly pipeline: string | undefined;
  readonly taken: readonly string[];
  readonly onClose: () => void;
  readonly onMade: (name: string) => void;
}

/** Publishes a saved pipeline: which one, and under what name. Everything else has a sensible beginning. */
export function NewPublication({ pipeline: first, taken, onClose, onMade }: NewPublicationProps) {
  const { data: pipelines = [] } = usePipelinesQuery();
  const [pipeline, setPipeline] = useState(first ?? '');
  const [typed, setTyped] = useState<string>();
  const [put, putting] = usePutPublicationMutation();
  const name = typed ?? nameFor(pipeline);
  const wrong = name !== '' && !/^[A-Za-z0-9_-]{1,64}$/.test(name) ? 'Letters, digits, - and _, at most 64.' : taken.includes(name) ? 'Something is published under this name already.' : undefined; // prettier-ignore
  const submit = async () => {
    const saved = pipelines.find((one) => one.name === pipeline);
    if (saved === undefined) return;
    const made = await put({ name, body: { pipeline, title: pipeline, parameters: describedFor(saved), cache: { until: 'change' } } }).unwrap().catch(() => undefined); // prettier-ignore
    const other = made ?? (await put({ name, body: { pipeline, title: pipeline, parameters: describedFor(saved) } }).unwrap().catch(() => undefined)); // prettier-ignore
    if (other === undefined) return;
    onClose();
    onMade(other.name);
  };
  return (
    <FormDialog title="Publish a saved pipeline" action="Publish" canSubmit={pipeline !== '' && name !== '' && wrong === undefined && !putting.isLoading} onSubmit={submit} onClose={onClose}>
      <TextField select label="Pipeline" value={pipelines.some((one) => one.name === pipeline) ? pipeline : ''} onChange={(event) => setPipeline(event.target.value)} helperText={pipelines.length === 0 ? 'No pipeline is saved yet: save one on the Bench.' : 'What is answered.'}>
        {pipelines.map((one) => (
          <MenuItem key={one.name} value={one.name}>{one.name}</MenuItem>
        ))}
      </TextField>
      <TextField label="Name in the address" value={name} onChange={(event) => setTyped(event.target.value)} error={wrong !== undefined} helperText={wrong ?? 'Others ask for it by this name.'} />
      {putting.error !== undefined && <TextField multiline value={problemText(putting.error)} error slotProps={{ htmlInput: { readOnly: true, 'aria-label': 'What is wrong' } }} />}
    </FormDialog>
  );
} // prettier-ignore
