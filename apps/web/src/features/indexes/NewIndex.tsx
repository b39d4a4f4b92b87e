import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import type { WhatIfAnswer } from '@zesty-sieve/contract';
import { useState } from 'react';
import { problemText, useWhatIfMutation } from '../../api/api.ts';
import { counted } from '../../parts/numbers.ts';
import { splitKeys } from './keys.ts';
import { Served } from './Served.tsx';

/** An index as it is asked for. */
export interface NewIndexRequest {
  readonly keys: string[];
  readonly name?: string;
  readonly unique?: boolean;
  readonly where?: string;
}

interface NewIndexProps {
  readonly collection: string;
  readonly isBuilding: boolean;
  readonly problem: string | undefined;
  readonly onBuild: (asked: NewIndexRequest) => Promise<boolean>;
  readonly onTyped: () => void;
}

/** Asks for an index of keys written in the notation: what it would serve is seen before it is built. */
export function NewIndex({ collection, isBuilding, problem, onBuild, onTyped }: NewIndexProps) {
  const [keys, setKeys] = useState('');
  const [where, setWhere] = useState('');
  const [name, setName] = useState('');
  const [unique, setUnique] = useState(false);
  const [whatIf, { data, error, isLoading, reset }] = useWhatIfMutation();
  const asked: NewIndexRequest = {
    keys: splitKeys(keys),
    unique,
    ...(name.trim() !== '' && { name: name.trim() }),
    ...(where.trim() !== '' && { where }),
  };
  const typed = (set: (value: string) => void) => (value: string) => {
    set(value);
    reset();
    onTyped();
  };
  const wrong = problem ?? (error === undefined ? undefined : problemText(error));
  const submit = async () => {
    if (!(await onBuild(asked))) return;
    setKeys('');
    setWhere('');
    setName('');
    setUnique(false);
    reset();
  };
  return (
    <Box
      component="form"
      aria-label="New index"
      onSubmit={(event: React.FormEvent) => {
        event.preventDefault();
        void submit();
      }}
      sx={{ px: 2.5, py: 2, bgcolor: (t) => t.roles.form, borderBottom: 1, borderColor: 'divider' }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-start', flexWrap: 'wrap' }}>
        <TextField
          label="Keys"
          placeholder="@.status, @.arrivesOn desc"
          value={keys}
          onChange={(event) => typed(setKeys)(event.target.value)}
          error={wrong !== undefined}
          helperText={wrong ?? 'As in order by: the keys that are asked for by equality first, then the order or one range'}
          sx={{ flex: 2, minWidth: 280 }}
        />
        <TextField
          label="Only where (optional)"
          placeholder='@.status == "late"'
          value={where}
          onChange={(event) => typed(setWhere)(event.target.value)}
          sx={{ flex: 1, minWidth: 190 }}
        />
        <TextField
          label="Name (optional)"
          placeholder="after its keys"
          value={name}
          onChange={(event) => typed(setName)(event.target.value)}
          sx={{ width: 150 }}
        />
        <FormControlLabel
          control={<Checkbox size="small" checked={unique} onChange={(event) => setUnique(event.target.checked)} />}
          label="Unique"
        />
        <Button
          variant="outlined"
          disabled={asked.keys.length === 0 || isLoading}
          onClick={() => void whatIf({ indexes: [{ collection, ...asked }] })}
          sx={{ mt: 0.5 }}
        >
          What if?
        </Button>
        <Button type="submit" variant="contained" disabled={asked.keys.length === 0 || isBuilding} sx={{ mt: 0.5 }}>
          {isBuilding ? 'Building …' : 'Build'}
        </Button>
      </Box>
      {data && <WouldServe answer={data} />}
    </Box>
  );
}

const shown = 6;

function WouldServe({ answer: { runs, serves } }: { answer: WhatIfAnswer }) {
  return (
    <Box role="status" sx={{ pt: 1.25, fontSize: 12.5 }}>
      {serves.length === 0
        ? `None of the ${counted(runs, 'kept run')} and of the saved pipelines would read less with it.`
        : `With it, by an estimate from a sample, these would read less:`}
      <Served
        label="What it would serve"
        questions={serves.slice(0, shown).map(({ documentsRead, instead, ...one }) => ({ ...one, from: documentsRead, to: instead }))}
      />
      {serves.length > shown && <Box sx={{ color: 'text.secondary' }}>and {serves.length - shown} more</Box>}
    </Box>
  );
}
