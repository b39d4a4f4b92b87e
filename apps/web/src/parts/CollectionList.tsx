import Box from '@mui/material/Box';
import { styled } from '@mui/material/styles';
import type { ReactNode } from 'react';
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
  '&.active': { background: theme.roles.surface, borderLeftColor: theme.roles.flow },
}));

/** The collections with their counts and sizes, each a link below an address. */
export function CollectionList({ base, children, below }: { base: string; children?: ReactNode; below?: ReactNode }) {
  const { data: collections, error } = useCollectionsQuery();
  return (
    <Box
      component="nav"
      aria-label="Collections"
      sx={{ width: 244, flex: 'none', borderRight: 1, borderColor: 'divider', display: 'flex', flexDirection: 'column', minHeight: 0 }}
    >
      {children}
      <Box sx={{ overflow: 'auto', flex: 1 }}>
        {collections?.map(({ name, count, bytes: size, scratch }) => (
          <CollectionEntry key={name} to={`${base}/${encodeURIComponent(name)}`}>
            <Box sx={{ fontWeight: 600, overflow: 'hidden', textOverflow: 'ellipsis' }}>{name}</Box>
            <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
              {counted(count, 'document')} · {bytes(size)}
              {scratch && ' · scratch'}
            </Box>
          </CollectionEntry>
        ))}
        {collections?.length === 0 && <Box sx={{ p: 2.25, color: 'text.secondary' }}>There are no collections yet.</Box>}
        {error !== undefined && <Box sx={{ p: 2.25, color: 'error.main' }}>{problemText(error)}</Box>}
        {below}
      </Box>
    </Box>
  );
}
