import { apiUrl } from '../../api/apiUrl.ts';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { collectionName, type CollectionInfo } from '@zesty-sieve/contract';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useRenameCollectionMutation } from '../../api/collections.ts';
import { problemText } from '../../api/problems.ts';
import { CheckDialog } from './CheckDialog.tsx';
import { CopyDialog } from './CopyDialog.tsx';
import { RemoveCollection } from './RemoveCollection.tsx';
import { FormDialog } from '../../parts/FormDialog.tsx';

const formats = [
  ['ndjson', 'NDJSON'],
  ['json', 'a JSON array'],
  ['csv', 'CSV'],
  ['sql&dialect=sqlite', 'a script for SQLite'],
  ['sql&dialect=postgresql', 'a script for PostgreSQL'],
] as const;

/** What can be done with a collection as a whole. */
export function CollectionMenu({ collection }: { collection: CollectionInfo }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [removing, setRemoving] = useState<'collection' | 'documents' | null>(null);
  const [isRenaming, setRenaming] = useState(false);
  const [isCopying, setCopying] = useState(false);
  const [isChecking, setChecking] = useState(false);
  const navigate = useNavigate();
  const at = apiUrl('collections', collection.name);
  const does = (work: () => void) => () => {
    setAnchor(null);
    work();
  };
  return (
    <>
      <Button variant="outlined" aria-haspopup="menu" onClick={(event) => setAnchor(event.currentTarget)} sx={{ borderColor: 'divider' }}>
        More
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={() => setAnchor(null)}>
        {formats.map(([format, label]) => (
          <MenuItem
            key={format}
            component="a"
            href={`${at}/export?format=${format}&formulas=guard`}
            download
            onClick={() => setAnchor(null)}
          >
            Export as {label}
          </MenuItem>
        ))}
        <MenuItem component="a" href={apiUrl('backup')} download onClick={() => setAnchor(null)}>
          Back up the whole database
        </MenuItem>
        <MenuItem onClick={does(() => setCopying(true))}>Copy into another database</MenuItem>
        <MenuItem onClick={does(() => setChecking(true))}>Check</MenuItem>
        <Divider />
        <MenuItem onClick={does(() => setRenaming(true))}>Rename</MenuItem>
        <MenuItem onClick={does(() => setRemoving('documents'))} disabled={collection.count === 0}>
          Remove all documents
        </MenuItem>
        <MenuItem onClick={does(() => setRemoving('collection'))} sx={{ color: 'error.main' }}>
          Remove the collection
        </MenuItem>
      </Menu>
      <RemoveCollection
        collection={collection}
        what={removing}
        onClose={() => setRemoving(null)}
        onRemoved={() => removing === 'collection' && void navigate('/data', { replace: true })}
      />
      {isCopying && <CopyDialog collection={collection.name} onClose={() => setCopying(false)} />}
      {isChecking && <CheckDialog collection={collection.name} onClose={() => setChecking(false)} />}
      {isRenaming && <RenameDialog collection={collection} onClose={() => setRenaming(false)} />}
    </>
  );
}

function RenameDialog({ collection, onClose }: { collection: CollectionInfo; onClose: () => void }) {
  const [name, setName] = useState(collection.name);
  const [rename, { error, isLoading }] = useRenameCollectionMutation();
  const navigate = useNavigate();
  const checked = collectionName.safeParse(name);
  const submit = async () => {
    const done = await rename({ name: collection.name, next: name });
    if (done.error) return;
    onClose();
    void navigate(`/data/${encodeURIComponent(name)}`, { replace: true });
  };
  return (
    <FormDialog
      title={`Rename ${collection.name}`}
      action="Rename"
      canSubmit={checked.success && name !== collection.name && !isLoading}
      onSubmit={submit}
      onClose={onClose}
    >
      <TextField
        fullWidth
        autoFocus
        label="Name"
        value={name}
        onChange={(event) => setName(event.target.value)}
        error={!checked.success || error !== undefined}
        helperText={
          error
            ? problemText(error)
            : checked.success
              ? 'Saved pipelines that name it are not rewritten.'
              : checked.error.issues[0]!.message
        }
      />
    </FormDialog>
  );
}
