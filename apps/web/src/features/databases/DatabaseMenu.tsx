import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Divider from '@mui/material/Divider';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import { useRef, useState } from 'react';
import { apiUrl } from '../../api/apiUrl.ts';
import { databaseHere } from '../../api/database.ts';
import { useDatabasesQuery } from '../../api/databases.ts';
import { useCommands } from '../../app/commands.ts';
import { bytes } from '../../parts/numbers.ts';
import { later } from '../../parts/later.tsx';
import { goTo } from './goTo.ts';

const NameDialog = later(async () => (await import('./NameDialog.tsx')).NameDialog);
const RemoveDialog = later(async () => (await import('./RemoveDialog.tsx')).RemoveDialog);
const RestoreDialog = later(async () => (await import('./RestoreDialog.tsx')).RestoreDialog);

type Doing = { readonly what: 'new' | 'rename' | 'remove' } | { readonly what: 'restore'; readonly file: File };

/** The database that one works on, and what can be done with databases. */
export function DatabaseMenu() {
  const { data: databases = [], refetch } = useDatabasesQuery();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const [doing, setDoing] = useState<Doing>();
  const file = useRef<HTMLInputElement>(null);
  const here = databases.find((one) => (databaseHere === null ? one.isDefault : one.name === databaseHere));
  const name = here?.name ?? databaseHere ?? '';
  const close = () => setAnchor(null);
  const begin = (what: 'new' | 'rename' | 'remove') => () => {
    close();
    setDoing({ what });
  };
  const open = (target: HTMLElement) => {
    setAnchor(target);
    void refetch();
  };
  const done = () => setDoing(undefined);
  useCommands([
    { name: 'New database', run: begin('new') },
    ...databases.filter((one) => one !== here && one.damaged === null).map((one) => ({ name: `Switch to the database ${one.name}`, run: () => goTo(one.name, one.isDefault) })),
  ]);
  return (
    <>
      <Button size="small" aria-haspopup="menu" aria-label={`Database ${name}`} onClick={(event) => open(event.currentTarget)} sx={{ maxWidth: 150, color: 'text.secondary', px: 1, '& span': { overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' } }}>
        <span>{name}</span>
        {'\u00a0▾'}
      </Button>
      <Menu anchorEl={anchor} open={anchor !== null} onClose={close} slotProps={{ paper: { sx: { width: 340 } }, list: { 'aria-label': 'Databases' } }}>
        {databases.map((one) => (
          <MenuItem key={one.file} selected={one === here} disabled={one.damaged !== null} onClick={() => (one === here ? close() : goTo(one.name, one.isDefault))} sx={{ display: 'block', opacity: '1 !important' }}>
            <Box sx={{ fontWeight: 600 }}>{one.name}</Box>
            <Box sx={{ fontSize: 12, whiteSpace: 'normal', color: (t) => (one.damaged !== null ? t.palette.error.main : one === here ? 'inherit' : t.roles.softInk) }}>{one.damaged ?? `${bytes(one.bytes)}${one.isDefault ? ', the one that the server was started on' : ''}`}</Box>
          </MenuItem>
        ))}
        <Divider />
        {here && <Box component="li" role="presentation" sx={{ px: 2, py: 0.5, fontSize: 12, color: 'text.secondary', overflowWrap: 'anywhere' }}>It lies in {here.file}</Box>}
        <MenuItem onClick={begin('new')}>New database</MenuItem>
        <MenuItem onClick={begin('rename')}>Rename {name}</MenuItem>
        <MenuItem component="a" href={apiUrl('backup')} download onClick={close}>Back up {name}</MenuItem>
        <MenuItem onClick={() => file.current?.click()}>Restore {name} from a backup</MenuItem>
        {here?.isDefault === false && <MenuItem onClick={begin('remove')} sx={{ color: 'error.main' }}>Remove {name}</MenuItem>}
      </Menu>
      <input
        ref={file}
        type="file"
        hidden
        aria-label="Backup file"
        onChange={(event) => {
          const [given] = event.target.files ?? [];
          if (given !== undefined) setDoing({ what: 'restore', file: given });
          event.target.value = '';
          close();
        }}
      />
      {doing?.what === 'new' && <NameDialog taken={databases.map((one) => one.name)} onClose={done} />}
      {doing?.what === 'rename' && here && <NameDialog of={here} taken={databases.map((one) => one.name)} onClose={done} />}
      {doing?.what === 'remove' && here && <RemoveDialog database={here} onClose={done} />}
      {doing?.what === 'restore' && here && <RestoreDialog database={here} file={doing.file} onClose={done} />}
    </>
  );
} // prettier-ignore
