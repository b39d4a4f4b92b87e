import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { CollectionInfo, OnDuplicate } from '@zesty-sieve/contract';
import { useEffect, useState } from 'react';
import { useCollectionsQuery } from '../../../api/collections.ts';
import { Problem } from '../../../parts/Problem.tsx';
import { bytes } from '../../../parts/numbers.ts';
import { LoadPreview } from './LoadPreview.tsx';
import { formatOf, type FileFormat } from './fileKind.ts';
import { usePreview, type LoadOptions } from './usePreview.ts';

/** What was chosen about a file. */
export interface LoadChoice {
  readonly options: LoadOptions;
  readonly onDuplicate: OnDuplicate;
  readonly identity: string;
  /** The name of a new scratch collection that it is loaded into instead, in memory only. */
  readonly scratch: string | null;
}

interface ChosenFileProps {
  readonly collection: CollectionInfo;
  readonly file: File;
  readonly onLoad: (choice: LoadChoice) => void;
  readonly onClose: () => void;
}

const delimiters = [
  [',', 'comma'],
  [';', 'semicolon'],
  ['\t', 'tab'],
  ['|', 'bar'],
] as const;

const select = { width: 170, bgcolor: 'background.paper' } as const;

/** A collection's name made of a file's, that is not taken. */
function freeName(fileName: string, taken: ReadonlySet<string>): string {
  const plain = fileName
    .replace(/(?:\.[a-z]+)+$/i, '')
    .replace(/[^A-Za-z0-9_-]+/g, '_')
    .replace(/^[^A-Za-z]+/, '')
    .slice(0, 50);
  const base = `look_${plain || 'file'}`;
  for (let i = 1; ; i++) {
    const name = i === 1 ? base : `${base}_${i}`;
    if (!taken.has(name)) return name;
  }
}

/** A file before it is loaded: its first documents, their shape, and what can be chosen. */
export function ChosenFile({ collection, file, onLoad, onClose }: ChosenFileProps) {
  const [options, setOptions] = useState<LoadOptions>({ format: formatOf(file), delimiter: ',', header: 'yes', columns: {} });
  const [isOwnDelimiter, setOwnDelimiter] = useState(false);
  const [onDuplicate, setOnDuplicate] = useState<OnDuplicate>('reject');
  const [identity, setIdentity] = useState(collection.identity);
  const { data: collections = [] } = useCollectionsQuery();
  const [isScratch, setScratch] = useState(false);
  const scratch = freeName(file.name, new Set(collections.map(({ name }) => name)));
  const { preview, problem } = usePreview(file, options);
  const change = (next: Partial<LoadOptions>) => setOptions((now) => ({ ...now, ...next }));
  const isEmpty = isScratch || collection.count === 0;
  useEffect(() => {
    // The delimiter that the first line speaks for is taken, until another is chosen.
    if (!isOwnDelimiter && preview?.delimiter !== undefined && preview.delimiter !== options.delimiter)
      change({ delimiter: preview.delimiter });
  }, [preview, isOwnDelimiter, options.delimiter]);
  return (
    <Box
      component="section"
      aria-label="Before it is loaded"
      sx={{ border: 1, borderColor: 'divider', borderRadius: 2, bgcolor: 'background.paper' }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap', p: 2, borderBottom: 1, borderColor: 'divider' }}>
        <Box sx={{ flex: 1, minWidth: 160 }}>
          <b>{file.name}</b>, {bytes(file.size)}
        </Box>
        <TextField
          select
          label="Format"
          value={options.format}
          onChange={(event) => change({ format: event.target.value as FileFormat })}
          sx={select}
        >
          <MenuItem value="ndjson">NDJSON</MenuItem>
          <MenuItem value="json">JSON array</MenuItem>
          <MenuItem value="csv">CSV</MenuItem>
        </TextField>
        {options.format === 'csv' && (
          <CsvChoices
            options={options}
            onDelimiter={(delimiter) => {
              setOwnDelimiter(true);
              change({ delimiter });
            }}
            onHeader={(header) => change({ header })}
          />
        )}
        <TextField
          select
          label="Load into"
          value={isScratch ? 'scratch' : 'here'}
          onChange={(event) => setScratch(event.target.value === 'scratch')}
          sx={{ ...select, width: 210 }}
        >
          <MenuItem value="here">{collection.name}</MenuItem>
          <MenuItem value="scratch">{scratch}, in memory only, to look at it</MenuItem>
        </TextField>
        <TextField
          select
          label="Identity"
          value={identity}
          onChange={(event) => setIdentity(event.target.value)}
          disabled={!isEmpty}
          sx={{ ...select, width: 130 }}
        >
          {[...new Set([collection.identity, ...(preview?.identities ?? [])])].map((path) => (
            <MenuItem key={path} value={path}>
              {path}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          select
          label="Where the identity is taken"
          value={onDuplicate}
          onChange={(event) => setOnDuplicate(event.target.value as OnDuplicate)}
          sx={{ ...select, width: 210 }}
        >
          <MenuItem value="reject">reject it, and list it</MenuItem>
          <MenuItem value="skip">pass it over</MenuItem>
          <MenuItem value="replace">replace what is there</MenuItem>
        </TextField>
        <Box sx={{ whiteSpace: 'nowrap' }}>
          <Button onClick={onClose}>Another file</Button>
          <Button
            variant="contained"
            disabled={preview === undefined || preview.documents.length === 0}
            onClick={() => onLoad({ options, onDuplicate, identity, scratch: isScratch ? scratch : null })}
          >
            Load it
          </Button>
        </Box>
      </Box>
      {problem && <Problem text={problem} />}
      {preview && <LoadPreview preview={preview} options={options} identity={identity} onColumns={(columns) => change({ columns })} />}
    </Box>
  );
}

interface CsvChoicesProps {
  readonly options: LoadOptions;
  readonly onDelimiter: (delimiter: string) => void;
  readonly onHeader: (header: 'yes' | 'no') => void;
}

function CsvChoices({ options, onDelimiter, onHeader }: CsvChoicesProps) {
  return (
    <>
      <TextField
        select
        label="Delimiter"
        value={options.delimiter}
        onChange={(event) => onDelimiter(event.target.value)}
        sx={{ ...select, width: 120 }}
      >
        {delimiters.map(([sign, name]) => (
          <MenuItem key={sign} value={sign}>
            {name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        label="First line"
        value={options.header}
        onChange={(event) => onHeader(event.target.value as 'yes' | 'no')}
        sx={{ ...select, width: 160 }}
      >
        <MenuItem value="yes">names the columns</MenuItem>
        <MenuItem value="no">is a record</MenuItem>
      </TextField>
    </>
  );
}
