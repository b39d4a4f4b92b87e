import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import type { CollectionInfo } from '@zesty-sieve/contract';
import { useEffect, useMemo, useState } from 'react';
import { useDocumentsQuery } from '../../../api/documents.ts';
import { problemText } from '../../../api/problems.ts';
import { useCopy } from '../../../parts/useCopy.ts';
import { identityReader, withoutIdentity } from '../../../parts/documents/identity.ts';
import { DocumentList } from '../../../parts/documents/DocumentList.tsx';
import { useRemoval } from './useRemoval.tsx';
import { DocumentDialog } from './DocumentDialog.tsx';
import type { Editing } from './edited.ts';

/** Documents that are edited together, at most. */
const listed = 40;

/** The documents of a collection in insertion order, a page after another as they are scrolled to; each can be changed. */
export function DocumentsPanel({ collection }: { collection: CollectionInfo }) {
  const { name, identity } = collection;
  const [after, setAfter] = useState<number | undefined>(undefined);
  const [rows, setRows] = useState<readonly unknown[]>([]);
  const [editing, setEditing] = useState<Editing | null>(null);
  const [sought, setSought] = useState('');
  const { currentData, error, isFetching, fulfilledTimeStamp } = useDocumentsQuery(
    { collection: name, size: 40, ...(after !== undefined && { after }) },
    { refetchOnMountOrArgChange: true },
  );
  const copy = useCopy();
  useEffect(() => {
    setRows([]);
    setAfter(undefined);
  }, [name]);
  useEffect(() => {
    if (!currentData) return;
    if (after === undefined) setRows(currentData.documents);
    else setRows((before) => [...before, ...currentData.documents]);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- a page is added once, when it has come
  }, [fulfilledTimeStamp]);
  const identityOf = useMemo(() => {
    const read = identityReader(identity);
    return (row: unknown) => String(read(row));
  }, [identity]);
  const begin = () => setAfter(undefined);
  const removeRow = useRemoval(name, identityOf, (row) => setRows((now) => now.filter((one) => one !== row)), begin);
  const duplicate = (row: unknown) => setEditing({ kind: 'add', text: JSON.stringify(withoutIdentity(row, identity), null, 2) });
  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, px: 2.5, py: 1, borderBottom: 1, borderColor: 'divider' }}>
        <Box
          component="form"
          onSubmit={(event: React.FormEvent) => {
            event.preventDefault();
            if (sought.trim() !== '') setEditing({ kind: 'edit', identity: sought.trim() });
          }}
        >
          <TextField
            placeholder="Open by identity"
            value={sought}
            onChange={(event) => setSought(event.target.value)}
            sx={{ width: 220, bgcolor: 'background.paper' }}
            slotProps={{ htmlInput: { 'aria-label': 'Open by identity' } }}
          />
        </Box>
        <Box sx={{ flex: 1 }} />
        <Button
          disabled={rows.length === 0}
          title={`The first ${Math.min(rows.length, listed)} as one JSON array`}
          onClick={() => setEditing({ kind: 'list', identities: rows.slice(0, listed).map(identityOf) })}
        >
          Edit as a list
        </Button>
        <Button variant="outlined" onClick={() => setEditing({ kind: 'add', text: '{\n  \n}' })}>
          Add documents
        </Button>
      </Box>
      {error && <Box sx={{ p: 2.5, color: 'error.main' }}>{problemText(error)}</Box>}
      {rows.length === 0 ? (
        <Box sx={{ p: 2.5, color: 'text.secondary' }}>
          {isFetching ? 'Reading …' : error === undefined && 'There are no documents yet. Load a file to put some in, or add one.'}
        </Box>
      ) : (
        <DocumentList
          rows={rows}
          more={() => !isFetching && currentData?.last != null && setAfter(currentData.last)}
          actions={(row) => (
            <RowActions
              identity={identityOf(row)}
              onEdit={() => setEditing({ kind: 'edit', identity: identityOf(row) })}
              onDuplicate={() => duplicate(row)}
              onCopy={() => copy(JSON.stringify(row, null, 2))}
              onRemove={() => removeRow(row)}
            />
          )}
        />
      )}
      <DocumentDialog
        collection={name}
        editing={editing}
        onClose={() => {
          setEditing(null);
          begin();
        }}
      />
    </>
  );
}

interface RowActionsProps {
  readonly identity: string;
  readonly onEdit: () => void;
  readonly onDuplicate: () => void;
  readonly onCopy: () => void;
  readonly onRemove: () => void;
}

const rowButton = { py: 0, px: 0.75, minWidth: 0, fontSize: 12, fontWeight: 500, color: 'text.secondary' } as const;

function RowActions({ identity, onEdit, onDuplicate, onCopy, onRemove }: RowActionsProps) {
  return (
    <Box role="group" aria-label={`Document ${identity}`}>
      <Button size="small" sx={rowButton} onClick={onEdit}>
        Edit
      </Button>
      <Button size="small" sx={rowButton} onClick={onDuplicate}>
        Duplicate
      </Button>
      <Button size="small" sx={rowButton} onClick={onCopy}>
        Copy
      </Button>
      <Button size="small" sx={rowButton} onClick={onRemove}>
        Remove
      </Button>
    </Box>
  );
}
