import { instantText } from '../../parts/dates.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { IndexInfo } from '@zesty-sieve/contract';
import { useState } from 'react';
import { codeFont } from '../../app/theme.ts';
import { GridHead, GridRow } from '../../parts/Grid.tsx';
import { bytes, count, counted, duration } from '../../parts/numbers.ts';
import { DropDialog } from './DropDialog.tsx';
import { headingOf, viewOfKind } from './kinds/registry.ts';
import { IndexValues } from './IndexValues.tsx';

const columns = [
  { id: 'keys', head: 'keys', width: 'minmax(200px, 1.6fr)' },
  { id: 'name', head: 'name', width: 'minmax(110px, 1fr)' },
  { id: 'entries', head: 'entries', width: '82px', isFigure: true },
  { id: 'memory', head: 'memory', width: '82px', isFigure: true },
  { id: 'uses', head: 'used by runs', width: '138px' },
  { id: 'built', head: 'built', width: '150px' },
  { id: 'actions', head: 'actions', width: '132px', isHeadHidden: true },
] as const;
const look = { gap: 1.75, indent: 2.5 };

/** What indexes there are: how large, since when, and of what use. */
export function IndexTable({ collection, indexes }: { collection: string; indexes: readonly IndexInfo[] }) {
  return (
    <Box role="table" aria-label="Indexes" sx={{ bgcolor: 'background.paper' }}>
      <GridHead columns={columns} look={look} />
      {indexes.map((index) => (
        <IndexRow key={index.name} collection={collection} index={index} />
      ))}
    </Box>
  );
}

function IndexRow({ collection, index }: { collection: string; index: IndexInfo }) {
  const facts = [...viewOfKind(index.kind).facts(index), ...(index.where === null ? [] : [`only where ${index.where}`])];
  const [isOpen, setOpen] = useState(false);
  const [isDropping, setDropping] = useState(false);
  return (
    <>
      <GridRow
        columns={columns}
        look={look}
        sx={{ minHeight: 46, py: 0.75 }}
        cells={{
          keys: {
            sx: { minWidth: 0 },
            shown: (
              <>
                <Box
                  sx={{
                    fontFamily: codeFont,
                    fontVariantLigatures: 'none',
                    fontSize: 12.5,
                    color: (t) => t.roles.index,
                    overflowWrap: 'anywhere',
                  }}
                >
                  {headingOf(index)}
                </Box>
                {facts.length > 0 && <Box sx={{ fontSize: 11.5, color: 'text.secondary' }}>{facts.join(', ')}</Box>}
              </>
            ),
          },
          name: { sx: { overflowWrap: 'anywhere', fontSize: 12.5 }, shown: index.name },
          entries: count(index.entries),
          memory: bytes(index.bytes),
          uses: { sx: { fontSize: 12.5 }, shown: <Uses index={index} /> },
          built: {
            sx: { fontSize: 12, color: 'text.secondary' },
            shown: `${index.createdAt === null ? 'with the collection' : instantText(index.createdAt)}${index.buildMs === null ? '' : `, in ${duration(index.buildMs)}`}`,
          },
          actions: {
            sx: { whiteSpace: 'nowrap', textAlign: 'right' },
            shown: (
              <>
                <Button aria-expanded={isOpen} onClick={() => setOpen(!isOpen)} sx={{ minWidth: 0, color: 'text.secondary' }}>
                  Values
                </Button>
                {index.createdAt !== null && (
                  <Button color="error" onClick={() => setDropping(true)} sx={{ minWidth: 0 }}>
                    Drop
                  </Button>
                )}
              </>
            ),
          },
        }}
      />
      {isOpen && <IndexValues collection={collection} index={index} />}
      {isDropping && <DropDialog collection={collection} index={index} onClose={() => setDropping(false)} />}
    </>
  );
}

function Uses({ index: { uses, lastUsedAt } }: { readonly index: IndexInfo }) {
  return (
    <>
      {uses === 0 ? (
        <Box component="span" sx={{ color: 'text.secondary' }}>
          never yet
        </Box>
      ) : (
        counted(uses, 'run')
      )}
      {lastUsedAt !== null && <Box sx={{ fontSize: 11.5, color: 'text.secondary' }}>last {instantText(lastUsedAt)}</Box>}
    </>
  );
}
