import { skipToken } from '@reduxjs/toolkit/query/react';
import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { CollectionInfo } from '@zesty-sieve/contract';
import { useState } from 'react';
import { useCollectionsQuery } from '../../../api/collections.ts';
import { problemText } from '../../../api/problems.ts';
import { useOverlapsQuery } from '../../../api/shapes.ts';
import { codeFont } from '../../../app/theme.ts';
import { count, percent } from '../../../parts/numbers.ts';

/** Two collections side by side: the fields whose values overlap, and by how much. */
export function OverlapPanel({ collection }: { collection: CollectionInfo }) {
  const { data: collections = [] } = useCollectionsQuery();
  const others = collections.filter(({ name }) => name !== collection.name);
  const [chosen, setChosen] = useState('');
  const other = chosen !== '' ? chosen : (others[0]?.name ?? '');
  const { currentData: pairs, error, isFetching } = useOverlapsQuery(other === '' ? skipToken : { first: collection.name, second: other });
  const grid = {
    display: 'grid',
    gridTemplateColumns: 'minmax(0,1fr) minmax(0,1fr) 150px 150px',
    columnGap: 2,
    px: 2.5,
    py: 0.75,
    borderBottom: 1,
    borderColor: 'divider',
    alignItems: 'center',
  } as const;
  return (
    <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto' }}>
      <Box sx={{ p: 2.5, display: 'flex', gap: 2, alignItems: 'center' }}>
        <span>Fields of {collection.name} whose values stand also in</span>
        <TextField
          select
          value={other}
          onChange={(event) => setChosen(event.target.value)}
          sx={{ width: 200, bgcolor: 'background.paper' }}
          slotProps={{ htmlInput: { 'aria-label': 'Other collection' } }}
        >
          {others.map(({ name }) => (
            <MenuItem key={name} value={name}>
              {name}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      {isFetching && <LinearProgress color="secondary" sx={{ height: 2 }} />}
      {error && <Box sx={{ p: 2.5, color: 'error.main' }}>{problemText(error)}</Box>}
      {pairs?.length === 0 && <Box sx={{ px: 2.5, color: 'text.secondary' }}>No field of the one has values that the other has too.</Box>}
      {pairs !== undefined && pairs.length > 0 && (
        <Box role="table" aria-label="Fields that overlap" sx={{ bgcolor: 'background.paper', borderTop: 1, borderColor: 'divider' }}>
          <Box role="row" sx={{ ...grid, fontSize: 11.5, fontWeight: 600, color: 'text.secondary' }}>
            <span role="columnheader">{collection.name}</span>
            <span role="columnheader">{other}</span>
            <span role="columnheader">of its values found</span>
            <span role="columnheader">the other way</span>
          </Box>
          {pairs.map(({ first, second, share, back, common, unique }) => (
            <Box role="row" key={first + second} sx={{ ...grid, fontSize: 12.5 }}>
              <Box role="cell" sx={{ fontFamily: codeFont, fontSize: 12, overflowWrap: 'anywhere' }}>
                {first} {unique[0] && <Key />}
              </Box>
              <Box role="cell" sx={{ fontFamily: codeFont, fontSize: 12, overflowWrap: 'anywhere' }}>
                {second} {unique[1] && <Key />}
              </Box>
              <Box role="cell">
                {percent(share)} ({count(common)})
              </Box>
              <Box role="cell">{percent(back)}</Box>
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}

function Key() {
  return (
    <Box component="span" title="Each value stands once: a key" sx={{ color: (t) => t.roles.index, fontFamily: 'inherit', fontSize: 11 }}>
      key
    </Box>
  );
}
