import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { IndexKindName, IndexRequestBody, WhatIfAnswer } from '@zesty-sieve/contract';
import { useState } from 'react';
import { useWhatIfMutation } from '../../api/indexes.ts';
import { problemText } from '../../api/problems.ts';
import { counted } from '../../parts/numbers.ts';
import { indexKindNames, viewOfKind } from './kinds/registry.ts';
import { Served } from './Served.tsx';

interface NewIndexProps {
  readonly collection: string;
  readonly isBuilding: boolean;
  readonly problem: string | undefined;
  readonly onBuild: (asked: IndexRequestBody) => Promise<boolean>;
  readonly onTyped: () => void;
}

/** Asks for an index of keys written in the notation: what it would serve is seen before it is built. */
export function NewIndex({ collection, isBuilding, problem, onBuild, onTyped }: NewIndexProps) {
  const [kind, setKind] = useState(indexKindNames[0]!);
  const view = viewOfKind(kind);
  const [draft, setDraft] = useState(view.empty);
  const [where, setWhere] = useState('');
  const [name, setName] = useState('');
  const [whatIf, { data, error, isLoading, reset }] = useWhatIfMutation();
  const own = view.request(draft);
  const asked: IndexRequestBody | undefined = own && {
    ...own,
    ...(name.trim() !== '' && { name: name.trim() }),
    ...(where.trim() !== '' && { where }),
  };
  const typed =
    <T,>(set: (value: T) => void) =>
    (value: T) => {
      set(value);
      reset();
      onTyped();
    };
  const wrong = problem ?? (error === undefined ? undefined : problemText(error));
  const submit = async () => {
    if (asked === undefined || !(await onBuild(asked))) return;
    setDraft(view.empty);
    setWhere('');
    setName('');
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
        {indexKindNames.length > 1 && (
          <TextField
            select
            label="Kind"
            value={kind}
            onChange={(event) => {
              const next = event.target.value as IndexKindName;
              setKind(next);
              typed(setDraft)(viewOfKind(next).empty);
            }}
            helperText={view.doc}
            sx={{ width: 150 }}
          >
            {indexKindNames.map((one) => (
              <MenuItem key={one} value={one}>
                {viewOfKind(one).title}
              </MenuItem>
            ))}
          </TextField>
        )}
        <view.Fields draft={draft} wrong={wrong} onChange={typed(setDraft)} />
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
        <Button
          variant="outlined"
          disabled={asked === undefined || isLoading}
          onClick={() => asked && void whatIf({ indexes: [{ collection, ...asked }] })}
          sx={{ mt: 0.5, order: 2 }}
        >
          What if?
        </Button>
        <Button type="submit" variant="contained" disabled={asked === undefined || isBuilding} sx={{ mt: 0.5, order: 2 }}>
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
