import { instantText } from '../../parts/dates.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Tab from '@mui/material/Tab';
import Tabs from '@mui/material/Tabs';
import type { Publication } from '@zesty-sieve/contract';
import { lazy, Suspense, useState } from 'react';
import { useNavigate } from 'react-router';
import { databaseHere, screensOf } from '../../api/database.ts';
import { usePipelinesQuery } from '../../api/pipelines.ts';
import { useRemovePublicationMutation } from '../../api/publications.ts';
import { problemText } from '../../api/problems.ts';
import { useAppDispatch } from '../../app/store.ts';
import { opened } from '../../state/bench/benchSlice.ts';
import { savedDraft } from '../../state/bench/savedDraft.ts';
import { count, counted, duration, percent } from '../../parts/numbers.ts';
import { Problem } from '../../parts/Problem.tsx';
import { Addresses } from './Addresses.tsx';
import { Keys } from './Keys.tsx';
import { Settings } from './Settings.tsx';
import { TryOut } from './TryOut.tsx';

const CallsChart = lazy(async () => ({ default: (await import('./CallsChart.tsx')).CallsChart }));

/** One publication: what it is asked and costs, its addresses, a try-out, how it is answered, and its keys. */
export function PublicationView({ publication }: { readonly publication: Publication }) {
  const { name, title, pipeline, totals, figures, problem, access } = publication;
  const [tab, setTab] = useState<'try' | 'how' | 'keys'>('try');
  const [remove, removing] = useRemovePublicationMutation();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const { data: pipelines = [] } = usePipelinesQuery();
  const saved = pipelines.find((one) => one.name === pipeline);
  const told: readonly (readonly [string, string])[] = [
    [count(totals.calls), 'calls in seven days'],
    [totals.calls === 0 ? '—' : percent(totals.fromCache / totals.calls), 'answered from what is kept'],
    [totals.calls === 0 ? '—' : duration(totals.slowestTenthMs), 'or longer: the slowest tenth'],
    [count(totals.documentsRead), 'documents read'],
    [count(totals.documentsSaved), 'not read again'],
    [count(totals.failures), 'failures'],
  ];
  return (
    <Box sx={{ maxWidth: 1100 }}>
      <Box sx={{ px: 2.5, py: 1.5, bgcolor: 'background.paper', borderBottom: 1, borderColor: 'divider', display: 'flex', alignItems: 'center', gap: 1 }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <Box component="h2" sx={{ m: 0, fontSize: 16, fontWeight: 700 }}>{title ?? name}</Box>
          <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{name} answers {pipeline}, {access === 'key' ? 'to whoever has a key' : 'to everybody who reaches it'}</Box>
        </Box>
        {saved && <Button onClick={() => { dispatch(opened(savedDraft(saved))); void navigate('/bench'); }}>Open on the Bench</Button>}
        <Button component="a" href={`${screensOf(databaseHere)}/p/${encodeURIComponent(name)}`} target="_blank" rel="noreferrer" variant="outlined">Its page</Button>
        <Button
          color="error"
          disabled={removing.isLoading}
          onClick={() => {
            if (window.confirm(`Publish ${name} no longer? Its keys go too, and whoever asks for it gets no answer.`)) void remove(name).unwrap().then(() => navigate('/publish'), () => undefined);
          }}
        >
          Publish no longer
        </Button>
      </Box>
      {problem !== null && <Problem text={`It cannot be answered as things stand. ${problem}`} />}
      {removing.error !== undefined && <Problem text={problemText(removing.error)} />}
      <Box component="dl" aria-label="What it is asked and costs" sx={{ m: 0, px: 2.5, py: 1.5, display: 'grid', gridTemplateColumns: 'repeat(6, minmax(0, 1fr))', gap: 2 }}>
        {told.map(([figure, what]) => (
          <Box key={what} sx={{ display: 'flex', flexDirection: 'column-reverse', justifyContent: 'flex-end' }}>
            <Box component="dt" sx={{ fontSize: 12, color: 'text.secondary' }}>{what}</Box>
            <Box component="dd" sx={{ m: 0, fontSize: 20, fontWeight: 700 }}>{figure}</Box>
          </Box>
        ))}
      </Box>
      {totals.lastFailure !== null && <Box sx={{ px: 2.5, pb: 1, fontSize: 12.5, color: 'text.secondary' }}>Last failure, {instantText(totals.lastFailure.at)}: {totals.lastFailure.message}</Box>}
      {figures.length > 0 && (
        <Suspense fallback={<Box sx={{ height: 150 }} />}>
          <CallsChart figures={figures} />
        </Suspense>
      )}
      <Addresses publication={publication} values={saved?.parameters} />
      <Tabs value={tab} onChange={(_event, next: typeof tab) => setTab(next)} sx={{ px: 1.5, borderBottom: 1, borderColor: 'divider', minHeight: 38 }}>
        <Tab value="try" label="Try it out" />
        <Tab value="how" label="How it is answered" />
        <Tab value="keys" label="Keys" />
      </Tabs>
      <Box role="tabpanel" aria-label={{ try: 'Try it out', how: 'How it is answered', keys: 'Keys' }[tab]} sx={{ px: 2.5, py: 2 }}>
        {tab === 'try' && <TryOut publication={publication} values={saved?.parameters} />}
        {tab === 'how' && <Settings key={publication.updatedAt} publication={publication} />}
        {tab === 'keys' && <Keys publication={publication} />}
      </Box>
      <Box sx={{ px: 2.5, pb: 2, fontSize: 12, color: 'text.secondary' }}>{counted(publication.maxRows, 'row')} at most for one answer.</Box>
    </Box>
  );
} // prettier-ignore
