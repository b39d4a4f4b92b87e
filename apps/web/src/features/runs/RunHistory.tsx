import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import { runOrders } from '@zesty-sieve/contract';
import { useState } from 'react';
import { useCollectionsQuery } from '../../api/collections.ts';
import { problemText } from '../../api/problems.ts';
import { useRunsQuery, useSettingsQuery } from '../../api/runs.ts';
import { count, counted } from '../../parts/numbers.ts';
import { RunChart } from './RunChart.tsx';
import { RunTable } from './RunTable.tsx';

type Order = (typeof runOrders)[number];
const orderWords: Readonly<Record<Order, string>> = {
  recent: 'Latest',
  slowest: 'Slowest',
  wasteful: 'Lowest yield',
  memory: 'Most memory',
};
const pageSize = 100;

interface RunHistoryProps {
  readonly search: URLSearchParams;
  readonly chosen: string | null;
  readonly onChange: (changes: Record<string, string | null>) => void;
}

/** The kept runs, those that matter first, and where they lie between documents read and time. */
export function RunHistory({ search, chosen, onChange }: RunHistoryProps) {
  const order = runOrders.find((one) => one === search.get('order')) ?? 'recent';
  const [collection, stopped, text] = [search.get('collection') ?? '', search.get('stopped') ?? '', search.get('text') ?? ''];
  const isOnce = search.get('once') === 'true';
  const [size, setSize] = useState(pageSize);
  const { data: settings } = useSettingsQuery();
  const { data, error } = useRunsQuery(
    {
      order,
      size,
      ...(collection !== '' && { collection }),
      ...(stopped === 'true' && { stopped }),
      ...(text !== '' && { text }),
      ...(isOnce && { once: 'true' }),
    },
    { refetchOnMountOrArgChange: true },
  );
  const isFiltered = collection !== '' || stopped !== '' || text !== '';
  return (
    <Box sx={{ flex: 1, minWidth: 0, display: 'flex', flexDirection: 'column' }}>
      <Box
        sx={{
          display: 'flex',
          flexWrap: 'wrap',
          gap: 1.5,
          alignItems: 'center',
          px: 2.5,
          py: 1.25,
          bgcolor: 'background.paper',
          borderBottom: 1,
          borderColor: 'divider',
        }}
      >
        <Box sx={{ flex: 1, minWidth: 120 }}>
          <Box component="h2" sx={{ m: 0, fontSize: 16, fontWeight: 700 }}>
            Runs
          </Box>
          <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
            {data
              ? `${isOnce ? `${counted(data.total, 'question')} asked` : `${counted(data.total, 'run')} kept`}${isFiltered ? ' that are like this' : ''}${settings ? `; the oldest go beyond ${count(settings.runsKept)}` : ''}`
              : ''}
          </Box>
        </Box>
        <RunFilters order={order} collection={collection} stopped={stopped} text={text} isOnce={isOnce} onChange={onChange} />
      </Box>
      {error !== undefined && (
        <Box role="alert" sx={{ p: 2.5, color: 'error.main' }}>
          {problemText(error)}
        </Box>
      )}
      {data?.unwritten !== undefined && (
        <Alert severity="warning" square>
          {counted(data.unwritten.runs, 'run')} could not be kept: {data.unwritten.reason}.
        </Alert>
      )}
      {data?.runs.length === 0 ? (
        <Box sx={{ p: 3, color: 'text.secondary', maxWidth: 560 }}>
          {isFiltered
            ? 'No kept run is like that.'
            : 'No run has been kept yet. Each full run on the Bench (Ctrl Enter), and each question over HTTP, is kept here with its plan and what it cost.'}
        </Box>
      ) : (
        data && (
          <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto' }} tabIndex={0} aria-label="Kept runs">
            {chosen === null && <RunChart runs={data.runs} onOpen={(run) => onChange({ run })} />}
            <RunTable runs={data.runs} chosen={chosen} onOpen={(run) => onChange({ run })} />
            {data.runs.length < data.total && (
              <Box sx={{ p: 1.5, display: 'flex', gap: 2, alignItems: 'center', fontSize: 12.5, color: 'text.secondary' }}>
                {count(data.runs.length)} of {count(data.total)}
                {data.runs.length < 500 && <Button onClick={() => setSize((n) => Math.min(500, n + pageSize))}>Show more</Button>}
              </Box>
            )}
          </Box>
        )
      )}
    </Box>
  );
}

interface RunFiltersProps extends Pick<RunHistoryProps, 'onChange'> {
  readonly order: Order;
  readonly collection: string;
  readonly stopped: string;
  readonly text: string;
  readonly isOnce: boolean;
}

/** Which runs come first, and which come at all. */
function RunFilters({ order, collection, stopped, text, isOnce, onChange }: RunFiltersProps) {
  const { data: collections = [] } = useCollectionsQuery();
  return (
    <>
      <ToggleButtonGroup
        value={order}
        onChange={(_event, next: Order | null) => next && onChange({ order: next })}
        aria-label="Which runs come first"
      >
        {runOrders.map((one) => (
          <ToggleButton key={one} value={one}>
            {orderWords[one]}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      <FormControlLabel
        control={<Checkbox size="small" checked={isOnce} onChange={(event) => onChange({ once: event.target.checked ? 'true' : null })} />}
        label="Each question once"
        sx={{ mr: 0, '& .MuiFormControlLabel-label': { fontSize: 12.5 } }}
      />
      <TextField
        select
        label="Collection"
        value={collection}
        onChange={(event) => onChange({ collection: event.target.value })}
        sx={{ width: 130 }}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      >
        <MenuItem value="">all</MenuItem>
        {collections.map(({ name }) => (
          <MenuItem key={name} value={name}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        label="Ended"
        value={stopped}
        onChange={(event) => onChange({ stopped: event.target.value })}
        sx={{ width: 130 }}
        slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      >
        <MenuItem value="">any way</MenuItem>
        <MenuItem value="true">by a guard</MenuItem>
      </TextField>
      <TextField
        placeholder="part of its text"
        defaultValue={text}
        onBlur={(event) => onChange({ text: event.target.value.trim() })}
        onKeyDown={(event) => event.key === 'Enter' && onChange({ text: (event.target as HTMLInputElement).value.trim() })}
        sx={{ width: 150 }}
        slotProps={{ htmlInput: { 'aria-label': 'Part of the pipeline’s text' } }}
      />
    </>
  );
}
