import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { ImportPreview } from '@zesty-sieve/contract';
import { FieldHeads, FieldRow } from '../../../parts/FieldRows.tsx';
import { JsonView } from '../../../parts/JsonView.tsx';
import { count, counted } from '../../../parts/numbers.ts';
import type { LoadOptions } from './usePreview.ts';

const fieldsShown = 12;
const cellTypes = ['auto', 'text', 'number', 'boolean', 'skip'];

/** What is found in a file: its problems, how its columns are read, its shape and its first document. */
export function LoadPreview({
  preview,
  options,
  identity,
  onColumns,
}: {
  preview: ImportPreview;
  options: LoadOptions;
  identity: string;
  onColumns: (columns: Record<string, string>) => void;
}) {
  const { documents, shape, problems, identities } = preview;
  return (
    <>
      {problems.length > 0 && (
        <Box sx={{ px: 2, py: 1, color: 'secondary.main', fontSize: 12.5, borderBottom: 1, borderColor: 'divider' }}>
          {problems.slice(0, 3).map(({ line, reason }) => (
            <div key={line}>
              line {count(line)}: {reason}
            </div>
          ))}
          {problems.length > 3 && `and ${problems.length - 3} more`}
        </Box>
      )}
      {documents.length === 0 && <Box sx={{ p: 2, color: 'text.secondary' }}>No document is found in it. Is the format another one?</Box>}
      {documents.length > 0 && !identities.includes(identity) && (
        <Box sx={{ px: 2, py: 1, fontSize: 12.5, color: 'text.secondary', borderBottom: 1, borderColor: 'divider' }}>
          <code>{identity}</code> is not there in all of them, or not different in all: a document without one is given one, and one that is
          taken is treated as chosen above.
        </Box>
      )}
      {options.format === 'csv' && documents.length > 0 && <ColumnTypes shape={shape} options={options} onColumns={onColumns} />}
      {documents.length > 0 && <FirstDocuments document={documents[0]!} shape={shape} />}
    </>
  );
}

interface ColumnTypesProps {
  readonly shape: ImportPreview['shape'];
  readonly options: LoadOptions;
  readonly onColumns: (columns: Record<string, string>) => void;
}

/** What the cells of each column are read as. */
function ColumnTypes({ shape, options, onColumns }: ColumnTypesProps) {
  const names = shape
    .filter(({ steps }) => steps.every((step) => 'field' in step))
    .map(({ steps }) => steps.map((step) => ('field' in step ? step.field : '')).join('.'));
  const columns = [...new Set([...names, ...Object.keys(options.columns)])];
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, px: 2, py: 1.25, borderBottom: 1, borderColor: 'divider' }}>
      {columns.map((name) => (
        <TextField
          key={name}
          select
          label={name}
          value={options.columns[name] ?? 'auto'}
          onChange={(event) => {
            const { [name]: _old, ...others } = options.columns;
            onColumns(event.target.value === 'auto' ? others : { ...others, [name]: event.target.value });
          }}
          sx={{ width: 130 }}
        >
          {cellTypes.map((type) => (
            <MenuItem key={type} value={type}>
              {type === 'skip' ? 'leave out' : type === 'auto' ? 'as it looks' : type}
            </MenuItem>
          ))}
        </TextField>
      ))}
    </Box>
  );
}

function FirstDocuments({
  document,
  shape,
}: {
  readonly document: ImportPreview['documents'][number];
  readonly shape: ImportPreview['shape'];
}) {
  return (
    <>
      <Box role="table" aria-label="Shape of the first documents">
        <FieldHeads />
        {shape.slice(0, fieldsShown).map((field) => (
          <FieldRow key={field.path} field={field} />
        ))}
      </Box>
      {shape.length > fieldsShown && (
        <Box sx={{ px: 2, py: 0.75, fontSize: 12, color: 'text.secondary' }}>
          and {counted(shape.length - fieldsShown, 'more field path')}
        </Box>
      )}
      <Box sx={{ p: 2 }} aria-label="The first document">
        <JsonView value={document} open={2} />
      </Box>
    </>
  );
}
