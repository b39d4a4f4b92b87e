import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Publication } from '@zesty-sieve/contract';
import { useState } from 'react';
import { usePipelinesQuery } from '../../api/pipelines.ts';
import { usePutPublicationMutation } from '../../api/publications.ts';
import { problemText } from '../../api/problems.ts';
import { Problem } from '../../parts/Problem.tsx';
import { putOf } from './draft.ts';
import { ParameterSettings } from './ParameterSettings.tsx';

type CacheKind = 'none' | 'time' | 'change';
const cacheKinds: Record<CacheKind, string> = {
  change: 'until something that it reads changes',
  time: 'for a time',
  none: 'not at all: worked out for each call',
};

/** How a publication is answered: what it takes, how long answers are kept, what they may cost, and who may ask. */
export function Settings({ publication }: { readonly publication: Publication }) {
  const [draft, setDraft] = useState(publication);
  const { data: pipelines = [] } = usePipelinesQuery();
  const [put, putting] = usePutPublicationMutation();
  const change = (changes: Partial<Publication>) => setDraft((now) => ({ ...now, ...changes }));
  const { cache, guards } = draft;
  const cacheKind: CacheKind = cache === null ? 'none' : 'until' in cache ? 'change' : 'time';
  const seconds = cache !== null && 'freshSeconds' in cache ? cache : { freshSeconds: 60, staleSeconds: 600 };
  const isChanged = JSON.stringify(putOf(draft)) !== JSON.stringify(putOf(publication));
  const whole = (label: string, value: number | undefined, onValue: (value: number | undefined) => void, helperText?: string) => (
    <TextField label={label} type="number" size="small" value={value ?? ''} onChange={(event) => onValue(event.target.value === '' ? undefined : Number(event.target.value))} helperText={helperText} />
  );
  const guard = (name: keyof Publication['guards']) => (value: number | undefined) => change({ guards: { ...guards, [name]: value } });
  return (
    <Box component="form" onSubmit={(event) => { event.preventDefault(); void put({ name: publication.name, body: putOf(draft) }); }} sx={{ display: 'flex', flexDirection: 'column', gap: 2 }}>
      <Row>
        <TextField label="Title of its page" size="small" value={draft.title ?? ''} onChange={(event) => change({ title: event.target.value === '' ? null : event.target.value })} />
        <TextField select label="Pipeline" size="small" value={draft.pipeline} onChange={(event) => change({ pipeline: event.target.value })}>
          {[...new Set([draft.pipeline, ...pipelines.map((one) => one.name)])].map((name) => (
            <MenuItem key={name} value={name}>{name}</MenuItem>
          ))}
        </TextField>
        <TextField select label="Who may ask" size="small" value={draft.access} onChange={(event) => change({ access: event.target.value as Publication['access'] })}>
          <MenuItem value="open">everybody who reaches it</MenuItem>
          <MenuItem value="key">whoever has a key</MenuItem>
        </TextField>
      </Row>
      <ParameterSettings draft={draft} saved={pipelines.find((one) => one.name === draft.pipeline)} onChange={(parameters) => change({ parameters })} />
      <Row>
        <TextField select label="Answers are kept" size="small" value={cacheKind} onChange={(event) => change({ cache: { none: null, time: seconds, change: { until: 'change' as const } }[event.target.value as CacheKind] })}>
          {(Object.keys(cacheKinds) as CacheKind[]).map((kind) => (
            <MenuItem key={kind} value={kind}>{cacheKinds[kind]}</MenuItem>
          ))}
        </TextField>
        {cacheKind === 'time' && whole('Fresh for, seconds', seconds.freshSeconds, (value) => change({ cache: { ...seconds, freshSeconds: value ?? 1 } }), 'From half of it on a new one is made behind it.')}
        {cacheKind === 'time' && whole('Served after that for, seconds', seconds.staleSeconds, (value) => change({ cache: { ...seconds, staleSeconds: value ?? 0 } }), 'While a new one is made.')}
      </Row>
      <Row>
        {whole('Rows of an answer', draft.maxRows, (value) => change({ maxRows: value ?? 1_000 }))}
        {whole('Time, ms', guards.timeMs, guard('timeMs'))}
        {whole('Documents read', guards.documentsRead, guard('documentsRead'))}
        {whole('Worked out at once', guards.atOnce, guard('atOnce'))}
      </Row>
      <TextField label="Origins of pages that may ask" size="small" value={draft.origins.join(' ')} onChange={(event) => change({ origins: event.target.value.split(/\s+/).filter((one) => one !== '') })} helperText="Such as https://board.example.org, with spaces between. Programs that are no pages need none." />
      {putting.error !== undefined && <Problem text={problemText(putting.error)} />}
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" disabled={!isChanged || putting.isLoading}>Save how it is answered</Button>
        <Button disabled={!isChanged} onClick={() => setDraft(publication)}>As it was</Button>
      </Box>
    </Box>
  );
} // prettier-ignore

function Row({ children }: { readonly children: React.ReactNode }) {
  return <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(180px, 1fr))', gap: 1.5 }}>{children}</Box>;
}
