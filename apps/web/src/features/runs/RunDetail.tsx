import CloseIcon from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { KeptRunDetail } from '@zesty-sieve/contract';
import { useSnackbar } from 'notistack';
import { useNavigate } from 'react-router';
import { problemText } from '../../api/problems.ts';
import { useRunQuery, useRunsQuery, useSetBaselineMutation } from '../../api/runs.ts';
import { useAppDispatch } from '../../app/store.ts';
import { codeFont } from '../../app/theme.ts';
import { bytes, count, counted, duration } from '../../parts/numbers.ts';
import { RewriteList } from '../../parts/plan/RewriteList.tsx';
import { StepTable } from '../../parts/plan/StepTable.tsx';
import { WayList } from '../../parts/plan/WayList.tsx';
import { HeadlineText } from '../../parts/plan/HeadlineText.tsx';
import { saveAs } from '../../parts/saveAs.ts';
import { opened } from '../../state/bench/benchSlice.ts';
import { typedFor } from '../../state/bench/parameters.ts';
import { Approximate } from '../../parts/Approximate.tsx';
import { yieldText } from '../../parts/yieldText.ts';
import { StoppedBy } from './RunTable.tsx';

/** One run: what was asked, what it cost, its plan; and where to go from it. */
export function RunDetail({ id, onClose, onCompare }: { id: string; onClose: () => void; onCompare: (other: string) => void }) {
  const { data: run, error } = useRunQuery(id);
  return (
    <Box
      component="section"
      aria-label="Run"
      sx={{ width: '52%', flex: 'none', minWidth: 0, borderLeft: 1, borderColor: 'divider', bgcolor: 'background.paper', overflow: 'auto' }}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', px: 2, pt: 1.25 }}>
        <Box component="h2" sx={{ m: 0, flex: 1, fontSize: 14, fontWeight: 700 }}>
          {run?.name ?? 'A run'}
        </Box>
        <IconButton size="small" aria-label="Close the run" onClick={onClose}>
          <CloseIcon sx={{ fontSize: 17 }} />
        </IconButton>
      </Box>
      {error !== undefined && (
        <Box role="alert" sx={{ p: 2, color: 'error.main' }}>
          {problemText(error)}
        </Box>
      )}
      {run && <Opened run={run} onCompare={onCompare} />}
    </Box>
  );
}

function Opened({ run, onCompare }: { run: KeptRunDetail; onCompare: (other: string) => void }) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const { enqueueSnackbar } = useSnackbar();
  const [setBaseline] = useSetBaselineMutation();
  const openOnBench = () => {
    dispatch(opened({ text: run.pipeline, sql: run.sql, parameters: typedFor(run.parameters), view: 'plan' }));
    void navigate('/bench');
  };
  const pin = async () => {
    if (run.name === null) return;
    const done = await setBaseline({ name: run.name, runId: run.baseline ? null : run.id });
    enqueueSnackbar(
      done.error
        ? problemText(done.error)
        : run.baseline
          ? `${run.name} has no baseline now.`
          : `Later runs of ${run.name} are held against this one.`,
      { variant: done.error ? 'error' : 'default' },
    );
  };
  return (
    <>
      <PipelineText run={run} />
      <Box sx={{ px: 2, pb: 1, fontSize: 12.5 }}>
        <b>
          Read {counted(run.cost.documentsRead, 'document')} to return {count(run.cost.rowsReturned)}
        </b>
        : {yieldText(run.cost)}. {duration(run.cost.timeMs)}, {run.cost.memoryBytes > 0 ? bytes(run.cost.memoryBytes) : 'nothing'} held.{' '}
        {run.guard && <StoppedBy guard={run.guard} />}
        {run.approximate && <Approximate approximate={run.approximate} />}
      </Box>
      <Box sx={{ px: 2, pb: 1.25, display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
        <Button variant="contained" onClick={openOnBench}>
          Open on the Bench
        </Button>
        {run.name !== null && (
          <Button variant="outlined" onClick={() => void pin()}>
            {run.baseline ? 'Unpin the baseline' : 'Pin as baseline'}
          </Button>
        )}
        <Button onClick={() => saveAs('run.json', 'application/json', JSON.stringify(run, null, 2))}>Save as JSON</Button>
        <CompareWith run={run} onCompare={onCompare} />
      </Box>
      <HeadlineText plan={run.plan} suggestions={run.suggestions} cost={run.cost} />
      <StepTable plan={run.plan} />
      <RewriteList rewrites={run.rewrites} />
      <WayList weighed={run.weighed} />
      <Box sx={{ px: 2, py: 1.5, fontSize: 12, color: 'text.secondary' }}>
        Indexes there were:{' '}
        {Object.entries(run.indexSet)
          .map(([collection, names]) => `${collection}: ${names.join(', ')}`)
          .join('; ')}
      </Box>
    </>
  );
}

/** What was asked, in the face in which it was asked. */
export function PipelineText({ run }: { run: Pick<KeptRunDetail, 'pipeline' | 'sql' | 'parameters'> }) {
  return (
    <Box
      component="pre"
      aria-label="Pipeline of the run"
      sx={{
        m: 0,
        px: 2,
        py: 1,
        fontFamily: codeFont,
        fontVariantLigatures: 'none',
        fontSize: 12,
        whiteSpace: 'pre-wrap',
        overflowWrap: 'anywhere',
      }}
    >
      {(run.sql ?? run.pipeline).trim()}
      {run.parameters &&
        `\n${run.sql === null ? '#' : '--'} with ${Object.entries(run.parameters)
          .map(([name, value]) => `:${name} = ${JSON.stringify(value)}`)
          .join(', ')}`}
    </Box>
  );
}

/** The runs that this one is most likely to be held against: the baseline, then others of the same pipeline or the same start. */
function CompareWith({ run, onCompare }: { run: KeptRunDetail; onCompare: (other: string) => void }) {
  const { data } = useRunsQuery({ collection: run.collections[0], size: 60 });
  const others = (data?.runs ?? []).filter(({ id }) => id !== run.id);
  const near = (other: (typeof others)[number]) =>
    Number(other.baseline && other.name === run.name) * 4 +
    Number(other.pipeline === run.pipeline) * 2 +
    Number(other.name !== null && other.name === run.name);
  const sorted = [...others].sort((a, b) => near(b) - near(a)).slice(0, 25);
  return (
    <TextField
      select
      label="Compare with"
      value=""
      disabled={sorted.length === 0}
      onChange={(event) => onCompare(event.target.value)}
      sx={{ width: 180 }}
    >
      {sorted.map((other) => (
        <MenuItem key={other.id} value={other.id} sx={{ fontSize: 12, fontFamily: codeFont, maxWidth: 560 }}>
          <Box component="span" sx={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
            {other.baseline && 'baseline · '}
            {other.pipeline === run.pipeline ? 'the same' : other.pipeline.trim().split('\n').join(' · ')} ·{' '}
            {count(other.cost.documentsRead)} read · {new Date(other.at).toLocaleTimeString('en-GB')}
          </Box>
        </MenuItem>
      ))}
    </TextField>
  );
}
