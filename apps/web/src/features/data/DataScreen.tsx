import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useParams, useSearchParams, useLocation } from 'react-router';
import type { CollectionInfo } from '@zesty-sieve/contract';
import { useCollectionsQuery } from '../../api/collections.ts';
import { usePipelinesQuery } from '../../api/pipelines.ts';
import { useAppDispatch } from '../../app/store.ts';
import { useStillHere } from '../../parts/useStillHere.ts';
import { CollectionList } from '../../parts/CollectionList.tsx';
import { ViewList } from '../../parts/views/ViewList.tsx';
import { bytes, counted } from '../../parts/numbers.ts';
import { opened } from '../../state/bench/benchSlice.ts';
import { ChangePanel } from './change/ChangePanel.tsx';
import { HistoryPanel } from './change/HistoryPanel.tsx';
import { CollectionMenu } from './CollectionMenu.tsx';
import { DocumentsPanel } from './documents/DocumentsPanel.tsx';
import { LoadPanel } from './load/LoadPanel.tsx';
import { NewCollection } from './NewCollection.tsx';
import { ExpectedPanel } from './shape/ExpectedPanel.tsx';
import { OverlapPanel } from './shape/OverlapPanel.tsx';
import { ShapePanel } from './shape/ShapePanel.tsx';
import { ViewPanel } from './views/ViewPanel.tsx';

/** The collections: what they hold, what their documents are like, and loading more. */
export function DataScreen() {
  const { collection: name } = useParams();
  const { data: collections } = useCollectionsQuery();
  const { state } = useLocation() as { state: { makes?: boolean } | null };
  const [isMaking, setMaking] = useState(state?.makes === true);
  const isLeaving = useRef(false);
  const isStillHere = useStillHere();
  const navigate = useNavigate();
  const collection = collections?.find((one) => one.name === name);
  const { data: pipelines } = usePipelinesQuery();
  const saved = pipelines?.find((one) => one.view && one.name === name);

  useEffect(() => {
    const [first] = collections ?? [];
    // Whoever is making a collection is on the way to that one.
    if (name === undefined && first !== undefined && !isMaking && !isLeaving.current && isStillHere())
      void navigate(`/data/${encodeURIComponent(first.name)}`, { replace: true });
  }, [name, collections, navigate, isMaking, isStillHere]);

  return (
    <>
      <CollectionList base="/data" below={(wanted) => <ViewList base="/data" wanted={wanted} />}>
        <Box sx={{ p: 1.5, borderBottom: 1, borderColor: 'divider' }}>
          <Button fullWidth variant="outlined" onClick={() => setMaking(true)}>
            New collection
          </Button>
        </Box>
      </CollectionList>
      <Box sx={{ flex: 1, minWidth: 0, display: 'flex', flexDirection: 'column' }}>
        {collection && <Collection key={collection.name} collection={collection} />}
        {!collection && saved && <ViewPanel key={saved.name} view={saved} />}
        {/* Without a name, the first collection is on its way. */}
        {!collection && !saved && collections && pipelines && (name !== undefined || collections.length === 0) && (
          <Box sx={{ p: 4, maxWidth: 520 }}>
            <Box component="h2" sx={{ fontSize: 18, mt: 0 }}>
              {name === undefined || collections.length === 0 ? 'Begin with a collection' : `There is no collection ${name}`}
            </Box>
            <Box sx={{ color: 'text.secondary', pb: 2 }}>
              A collection holds JSON documents. Make one, load a file into it, and ask about it on the Bench.
            </Box>
            <Button variant="contained" onClick={() => setMaking(true)}>
              New collection
            </Button>
          </Box>
        )}
      </Box>
      <NewCollection
        open={isMaking}
        onClose={() => setMaking(false)}
        onMade={(made) => {
          isLeaving.current = true;
          void navigate(`/data/${encodeURIComponent(made)}?show=load`);
        }}
      />
    </>
  );
}

const views = ['documents', 'fields', 'load', 'change', 'history', 'expected', 'beside'] as const;
type DataView = (typeof views)[number];

function Collection({ collection }: { collection: CollectionInfo }) {
  const [parameters, setParameters] = useSearchParams();
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const view: DataView = views.find((one) => one === parameters.get('show')) ?? 'documents';
  const askAbout = () => {
    dispatch(opened({ text: `from ${collection.name}\n` }));
    void navigate('/bench');
  };
  return (
    <>
      <Box
        sx={{
          px: 2.5,
          py: 1.25,
          display: 'flex',
          alignItems: 'center',
          gap: 2,
          bgcolor: 'background.paper',
          borderBottom: 1,
          borderColor: 'divider',
          flexWrap: 'wrap',
        }}
      >
        <Box sx={{ flex: 1, minWidth: 150 }}>
          <Box component="h2" sx={{ m: 0, fontSize: 16, fontWeight: 700, overflowWrap: 'anywhere' }}>
            {collection.name}
          </Box>
          <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
            {counted(collection.count, 'document')}, {bytes(collection.bytes)}, identity <code>{collection.identity}</code>
          </Box>
        </Box>
        <ToggleButtonGroup
          value={view}
          onChange={(_event, next: DataView | null) => next && setParameters({ show: next }, { replace: true })}
          aria-label="What is shown"
        >
          <ToggleButton value="documents">Documents</ToggleButton>
          <ToggleButton value="fields">Fields</ToggleButton>
          <ToggleButton value="load">Load</ToggleButton>
          <ToggleButton value="change">Change</ToggleButton>
          <ToggleButton value="history">History</ToggleButton>
        </ToggleButtonGroup>
        <Button variant="outlined" onClick={askAbout} sx={{ borderColor: 'divider' }}>
          Ask on the Bench
        </Button>
        <CollectionMenu collection={collection} />
      </Box>
      {view === 'documents' && <DocumentsPanel collection={collection} />}
      {view === 'fields' && <ShapePanel collection={collection} />}
      {view === 'expected' && <ExpectedPanel collection={collection} />}
      {view === 'beside' && <OverlapPanel collection={collection} />}
      {view === 'load' && <LoadPanel collection={collection} />}
      {view === 'change' && (
        <ChangePanel collection={collection} onMade={(change) => setParameters({ show: 'change', change }, { replace: true })} />
      )}
      {view === 'history' && <HistoryPanel collection={collection} open={parameters.get('change')} />}
    </>
  );
}
