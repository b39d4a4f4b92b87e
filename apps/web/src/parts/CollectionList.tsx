import Box from '@mui/material/Box';
import { styled } from '@mui/material/styles';
import TextField from '@mui/material/TextField';
import { useDeferredValue, useState, type ReactNode } from 'react';
import { NavLink } from 'react-router';
import { useCollectionsQuery } from '../api/collections.ts';
import { problemText } from '../api/problems.ts';
import { bytes, counted } from './numbers.ts';

export const CollectionEntry = styled(NavLink)(({ theme }) => ({
  display: 'block',
  padding: '9px 18px',
  color: theme.roles.ink,
  textDecoration: 'none',
  borderLeft: '3px solid transparent',
  '&:hover': { background: theme.roles.form },
  // Hundreds of entries cost what is in sight.
  contentVisibility: 'auto',
  containIntrinsicSize: 'auto 56px',
  '&.active': { background: theme.roles.surface, borderLeftColor: theme.roles.flow },
}));

interface CollectionListProps {
  readonly base: string;
  readonly children?: ReactNode;
  /** What else there is whose name has the wanted text, in small letters. */
  readonly below?: (wanted: string) => ReactNode;
}

/** The collections with their counts and sizes, each a link below an address. */
export function CollectionList({ base, children, below }: CollectionListProps) {
  const { data: collections, error } = useCollectionsQuery();
  const [typed, setTyped] = useState('');
  const wanted = useDeferredValue(typed.trim().toLowerCase());
  const found = collections?.filter(({ name }) => name.toLowerCase().includes(wanted));
  return (
    <Box
      component="nav"
      aria-label="Collections"
      sx={{ width: 244, flex: 'none', borderRight: 1, borderColor: 'divider', display: 'flex', flexDirection: 'column', minHeight: 0 }}
    >
      {children}
      {/* There however few they are, and before they have come: it would push them down under somebody's pointer. */}
      {collections?.length !== 0 && (
        <TextField
          type="search"
          placeholder="Find by name"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          slotProps={{ htmlInput: { 'aria-label': 'Find a collection' } }}
          sx={{ m: 1.5 }}
        />
      )}
      <Box sx={{ overflow: 'auto', flex: 1 }}>
        {found?.map(({ name, count, bytes: size, scratch }) => (
          <CollectionEntry key={name} to={`${base}/${encodeURIComponent(name)}`}>
            <Box sx={{ fontWeight: 600, overflow: 'hidden', textOverflow: 'ellipsis' }}>{name}</Box>
            <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
              {counted(count, 'document')} · {bytes(size)}
              {scratch && ' · scratch'}
            </Box>
          </CollectionEntry>
        ))}
        {found?.length === 0 && (
          <Box sx={{ p: 2.25, color: 'text.secondary' }}>
            {wanted === '' ? 'There are no collections yet.' : `No collection has “${typed.trim()}” in its name.`}
          </Box>
        )}
        {error !== undefined && <Box sx={{ p: 2.25, color: 'error.main' }}>{problemText(error)}</Box>}
        {/* After the collections, which would else push it down under somebody's pointer. */}
        {(collections !== undefined || error !== undefined) && below?.(wanted)}
      </Box>
    </Box>
  );
}
