import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import type { SavedPipeline } from '@zesty-sieve/contract';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { useAppDispatch } from '../../../app/store.ts';
import { NotationText } from '../../../parts/NotationText.tsx';
import { opened } from '../../../state/bench/benchSlice.ts';
import { ShapePanel } from '../shape/ShapePanel.tsx';
import { KeepDialog } from './KeepDialog.tsx';
import { ViewState } from './ViewState.tsx';

/** A saved pipeline that others read by its name: what it says, and how its kept rows stand. */
export function ViewPanel({ view }: { readonly view: SavedPipeline }) {
  const { name, materialized, pipeline, sql, note } = view;
  const [parameters, setParameters] = useSearchParams();
  const [isKeeping, setKeeping] = useState(false);
  const navigate = useNavigate();
  const dispatch = useAppDispatch();
  const shows = materialized !== null && parameters.get('show') === 'fields' ? 'fields' : 'state';
  const open = (text: string) => {
    dispatch(opened({ text }));
    void navigate('/bench');
  };
  return (
    <>
      <Box sx={{ px: 2.5, py: 1.25, display: 'flex', alignItems: 'center', gap: 2, bgcolor: 'background.paper', borderBottom: 1, borderColor: 'divider', flexWrap: 'wrap' }}>
        <Box sx={{ flex: 1, minWidth: 220 }}>
          <Box component="h2" sx={{ m: 0, fontSize: 16, fontWeight: 700 }}>{name}</Box>
          <Box sx={{ fontSize: 12, color: 'text.secondary' }}>{note ?? (materialized === null ? 'a view, worked out when it is read' : 'a view whose rows are kept')}</Box>
        </Box>
        {materialized !== null && (
          <ToggleButtonGroup exclusive value={shows} onChange={(_event, next: string | null) => next && setParameters({ show: next }, { replace: true })} aria-label="What is shown">
            <ToggleButton value="state">State</ToggleButton>
            <ToggleButton value="fields">Fields</ToggleButton>
          </ToggleButtonGroup>
        )}
        <Button variant="outlined" onClick={() => open(`from ${name}\n`)} sx={{ borderColor: 'divider' }}>Ask on the Bench</Button>
        {materialized !== null && <Button component={Link} to={`/indexes/${encodeURIComponent(name)}`} variant="outlined" sx={{ borderColor: 'divider' }}>Its indexes</Button>}
        <Button variant={materialized === null ? 'contained' : 'outlined'} onClick={() => setKeeping(true)}>{materialized === null ? 'Keep its rows' : 'Change'}</Button>
      </Box>
      {shows === 'fields' ? (
        <ShapePanel isOfView collection={{ name, identity: '', count: materialized?.rows ?? 0, bytes: materialized?.bytes ?? 0, scratch: false }} />
      ) : (
        <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto', p: 2.5, display: 'grid', gap: 2.5, alignContent: 'start', maxWidth: 860 }}>
          {materialized !== null && <ViewState name={name} view={materialized} />}
          <Box component="section" aria-label="What it says">
            <Box component="h3" sx={{ m: 0, pb: 0.75, fontSize: 13, fontWeight: 700 }}>What it says</Box>
            <Box sx={{ p: 1.5, border: 1, borderColor: 'divider', borderRadius: 1, bgcolor: 'background.paper', overflow: 'auto' }}>
              {(sql ?? pipeline).trimEnd().split('\n').map((line, i) => (<Box key={i} sx={{ whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' }}><NotationText line={line} /></Box>))}
            </Box>
          </Box>
        </Box>
      )}
      {isKeeping && <KeepDialog view={view} onClose={() => setKeeping(false)} />}
    </>
  );
} // prettier-ignore
