import { skipToken } from '@reduxjs/toolkit/query/react';
import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { CollectionInfo, OverlapList } from '@zesty-sieve/contract';
import { useState } from 'react';
import { useCollectionsQuery } from '../../../api/collections.ts';
import { problemText } from '../../../api/problems.ts';
import { useOverlapsQuery } from '../../../api/shapes.ts';
import { codeFont } from '../../../app/theme.ts';
import { GridHead, GridRow } from '../../../parts/Grid.tsx';
import { count, counted, percent } from '../../../parts/numbers.ts';

const look = { gap: 2, indent: 2.5 };
const path = { fontFamily: codeFont, fontSize: 12, overflowWrap: 'anywhere' } as const;

/** Two collections side by side: the fields whose values overlap, and by how much. */
export function OverlapPanel({ collection }: { collection: CollectionInfo }) {
  const { data: collections = [] } = useCollectionsQuery();
  const others = collections.filter(({ name }) => name !== collection.name);
  const [chosen, setChosen] = useState('');
  const other = chosen !== '' ? chosen : (others[0]?.name ?? '');
  const { currentData: found, error, isFetching } = useOverlapsQuery(other === '' ? skipToken : { first: collection.name, second: other });
  const pairs = found?.pairs;
  const columns = [
    { id: 'first', head: collection.name, width: 'minmax(0,1fr)' },
    { id: 'second', head: other, width: 'minmax(0,1fr)' },
    { id: 'share', head: 'of its values found', width: '150px' },
    { id: 'back', head: 'the other way', width: '150px' },
  ] as const;
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
          <GridHead columns={columns} look={look} />
          {pairs.map(({ first, second, share, back, common, unique }) => (
            <GridRow
              key={first + second}
              columns={columns}
              look={look}
              sx={{ py: 0.75, fontSize: 12.5 }}
              cells={{
                first: { sx: path, shown: <>{[`${first} `, unique[0] && <Key key="key" />]}</> },
                second: { sx: path, shown: <>{[`${second} `, unique[1] && <Key key="key" />]}</> },
                share: `${percent(share)} (${found?.sampled === true ? 'about ' : ''}${count(common)})`,
                back: percent(back),
              }}
            />
          ))}
        </Box>
      )}
      {found !== undefined && <Left found={found} names={[collection.name, other]} />}
    </Box>
  );
}

/** What the shares do not rest on. */
function Left({ found: { sampled, passedOver }, names }: { found: OverlapList; names: readonly string[] }) {
  const words = [
    ...(sampled ? ['There are more values than are held at once: shares and counts are those of a sample.'] : []),
    ...passedOver.flatMap((fields, i) =>
      fields === 0
        ? []
        : [`${counted(fields, 'more field')} of ${names[i]} could be a key and ${fields === 1 ? 'was' : 'were'} not looked at.`],
    ),
  ];
  return words.length === 0 ? null : <Box sx={{ p: 2.5, fontSize: 12.5, color: 'text.secondary' }}>{words.join(' ')}</Box>;
}

function Key() {
  return (
    <Box component="span" title="Each value stands once: a key" sx={{ color: (t) => t.roles.index, fontFamily: 'inherit', fontSize: 11 }}>
      key
    </Box>
  );
}
