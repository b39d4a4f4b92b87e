import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import TextField from '@mui/material/TextField';
import { saveAs } from '../../../parts/saveAs.ts';
import { useSnackbar } from 'notistack';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link } from 'react-router';
import type { CollectionInfo, ImportResult } from '@zesty-sieve/contract';
import { bytes, count, counted } from '../../../parts/numbers.ts';
import { useCreateCollectionMutation, useSetIdentityMutation } from '../../../api/collections.ts';
import { problemText } from '../../../api/problems.ts';
import { codeFont } from '../../../app/theme.ts';
import { ChosenFile, type LoadChoice } from './ChosenFile.tsx';
import { formatOfText } from './fileKind.ts';
import { useUpload, type UploadState } from './useUpload.ts';

/** Loads a file into a collection: by choosing it, by dropping it here, or by pasting its text. It is looked at first. */
export function LoadPanel({ collection }: { collection: CollectionInfo }) {
  const { state, begin, cancel, reset } = useUpload();
  const [file, setFile] = useState<File | null>(null);
  const [isPasting, setPasting] = useState(false);
  const [setIdentity] = useSetIdentityMutation();
  const [create] = useCreateCollectionMutation();
  const { enqueueSnackbar } = useSnackbar();
  const isLoading = state.kind === 'loading';
  const choose = (chosen: File) => {
    reset();
    setPasting(false);
    setFile(chosen);
  };
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: ([dropped]) => dropped && choose(dropped),
    multiple: false,
    noClick: true,
    disabled: isLoading,
  });
  const load = async ({ options, onDuplicate, identity, scratch }: LoadChoice) => {
    if (file === null) return;
    if (scratch !== null) {
      const made = await create({ name: scratch, identity, scratch: true });
      if (made.error) {
        enqueueSnackbar(problemText(made.error), { variant: 'error' });
        return;
      }
    } else if (identity !== collection.identity) {
      const done = await setIdentity({ name: collection.name, identity });
      if (done.error) {
        enqueueSnackbar(problemText(done.error), { variant: 'error' });
        return;
      }
    }
    begin({ file, into: scratch ?? collection.name }, onDuplicate, options);
    setFile(null);
  };
  return (
    <Box sx={{ p: 2.5, display: 'flex', flexDirection: 'column', gap: 2, overflow: 'auto', maxWidth: 980 }}>
      {file === null && (
        <Box
          {...getRootProps()}
          sx={{
            border: '1.5px dashed',
            borderColor: isDragActive ? 'secondary.main' : 'divider',
            borderRadius: 2,
            bgcolor: (t) => (isDragActive ? t.roles.flowSoft : t.roles.surface),
            p: 3,
            display: 'flex',
            alignItems: 'center',
            gap: 2.5,
            flexWrap: 'wrap',
          }}
        >
          <input {...getInputProps({ 'aria-label': 'File to load' })} />
          <Box sx={{ flex: 1, minWidth: 260 }}>
            <Box sx={{ fontWeight: 650, fontSize: 14 }}>Drop a file here</Box>
            <Box sx={{ color: 'text.secondary', fontSize: 12.5 }}>
              NDJSON (a document a line), a JSON array, or CSV; gzip of any of them. You see what it holds before anything is stored.
            </Box>
          </Box>
          <Button onClick={() => setPasting(!isPasting)} disabled={isLoading}>
            Paste text
          </Button>
          <Button variant="contained" onClick={open} disabled={isLoading}>
            Choose a file
          </Button>
        </Box>
      )}
      {isPasting && file === null && <PastedText onText={choose} />}
      {file !== null && (
        <ChosenFile
          key={`${file.name}-${file.size}-${file.lastModified}`}
          collection={collection}
          file={file}
          onLoad={(chosen) => void load(chosen)}
          onClose={() => setFile(null)}
        />
      )}
      <Progress state={state} onCancel={cancel} />
      {state.kind === 'failed' && (
        <Box role="alert" sx={{ color: 'error.main' }}>
          {state.message}
        </Box>
      )}
      {state.kind === 'done' && <Done {...state} isElsewhere={state.into !== collection.name} onClose={reset} />}
    </Box>
  );
}

const endings = { ndjson: 'ndjson', json: 'json', csv: 'csv' } as const;

function PastedText({ onText }: { onText: (file: File) => void }) {
  const [text, setText] = useState('');
  return (
    <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-start' }}>
      <TextField
        multiline
        minRows={5}
        maxRows={14}
        fullWidth
        autoFocus
        value={text}
        onChange={(event) => setText(event.target.value)}
        placeholder="Documents as NDJSON, a JSON array, or CSV"
        slotProps={{ htmlInput: { 'aria-label': 'Text to load', style: { fontFamily: codeFont, fontSize: 12 } } }}
      />
      <Button
        variant="outlined"
        disabled={text.trim() === ''}
        onClick={() => onText(new File([text], `pasted.${endings[formatOfText(text)]}`))}
      >
        Look at it
      </Button>
    </Box>
  );
}

/** About how much of the time of a load its sending takes. */
const receivingShare = 0.15;

function Progress({ state, onCancel }: { state: UploadState; onCancel: () => void }) {
  if (state.kind !== 'loading') return null;
  const { file, progress, startedAt } = state;
  const come = file.size === 0 ? 1 : progress.bytes / file.size;
  // The file comes first, and is read and stored when it is here.
  const share = progress.phase === 'receiving' ? come * receivingShare : receivingShare + come * (1 - receivingShare);
  const seconds = (performance.now() - startedAt) / 1000;
  const left = share > 0.02 ? Math.ceil((seconds / share) * (1 - share)) : undefined;
  return (
    <Box aria-live="polite">
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, pb: 0.75 }}>
        <Box sx={{ flex: 1 }}>
          {progress.phase === 'receiving' ? 'Sending ' : <b>{counted(progress.documents, 'document')}</b>}
          {progress.phase === 'receiving' ? '' : ' of '}
          {file.name}, {bytes(progress.bytes)} of {bytes(file.size)}
          {seconds > 0.5 && progress.documents > 0 && `, ${count(progress.documents / seconds)} a second`}
          {left !== undefined && `, about ${left} s left`}
          {progress.rejected > 0 && `, ${count(progress.rejected)} rejected`}
        </Box>
        <Button onClick={onCancel}>Cancel</Button>
      </Box>
      <LinearProgress variant="determinate" value={share * 100} aria-label="Loading" />
    </Box>
  );
}

function Done({
  result,
  file: { name },
  into,
  seconds,
  isElsewhere,
  onClose,
}: {
  result: ImportResult;
  file: File;
  into: string;
  seconds: number;
  isElsewhere: boolean;
  onClose: () => void;
}) {
  const { inserted, skipped, replaced, rejected, rejectedCount, warnings } = result;
  const parts = [
    counted(inserted, 'document') + ' stored',
    replaced > 0 && `${count(replaced)} replaced`,
    skipped > 0 && `${count(skipped)} passed over`,
    rejectedCount > 0 && `${counted(rejectedCount, 'line')} rejected`,
  ];
  const saveRejected = () => {
    saveAs(`${name}.rejected.ndjson`, 'application/x-ndjson', rejected.map((reject) => JSON.stringify(reject) + '\n').join(''));
  };
  return (
    <Box role="status">
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2, pb: 1 }}>
        <Box sx={{ flex: 1, fontSize: 14 }}>
          <b>{name}</b>: {parts.filter(Boolean).join(', ')} in {into}, in {seconds.toFixed(1)} s.
        </Box>
        {isElsewhere && (
          <Button variant="outlined" component={Link} to={`/data/${encodeURIComponent(into)}?show=fields`}>
            Show {into}
          </Button>
        )}
        {rejected.length > 0 && <Button onClick={saveRejected}>Save the list</Button>}
        <Button onClick={onClose}>Close</Button>
      </Box>
      {rejected.length > 0 && (
        <Listed title="Rejected lines" rows={rejected.map(({ line, reason }) => [line, reason])} more={rejectedCount} />
      )}
      {warnings.length > 0 && (
        <Listed
          title="Stored, but look at these"
          rows={warnings.map(({ line, path, reason }) => [line, `${path}: ${reason}`])}
          more={warnings.length}
        />
      )}
    </Box>
  );
}

const shownRows = 200;

function Listed({ title, rows, more }: { title: string; rows: readonly (readonly [number, string])[]; more: number }) {
  return (
    <Box sx={{ border: 1, borderColor: 'divider', borderRadius: 1.5, bgcolor: 'background.paper', mb: 2 }}>
      <Box sx={{ px: 2, py: 1, fontWeight: 650, borderBottom: 1, borderColor: 'divider' }}>{title}</Box>
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          width: '100%',
          fontSize: 12.5,
          '& td': { px: 2, py: 0.5, verticalAlign: 'top', overflowWrap: 'anywhere' },
        }}
      >
        <tbody>
          {rows.slice(0, shownRows).map(([line, text], i) => (
            <tr key={i}>
              <Box component="td" sx={{ width: 110, color: 'text.secondary' }}>
                line {count(line)}
              </Box>
              <td>{text}</td>
            </tr>
          ))}
        </tbody>
      </Box>
      {more > shownRows && <Box sx={{ px: 2, py: 1, color: 'text.secondary' }}>and {count(more - shownRows)} more</Box>}
    </Box>
  );
}
