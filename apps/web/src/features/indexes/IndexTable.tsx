import Box from '@mui/material/Box';
import visuallyHidden from '@mui/utils/visuallyHidden';
import Button from '@mui/material/Button';
import type { IndexInfo } from '@zesty-sieve/contract';
import { useState } from 'react';
import { codeFont } from '../../app/theme.ts';
import { bytes, count, counted, duration } from '../../parts/numbers.ts';
import { DropDialog } from './DropDialog.tsx';
import { headingOf, viewOfKind } from './kinds/registry.ts';
import { IndexValues } from './IndexValues.tsx';

const grid = {
  display: 'grid',
  gridTemplateColumns: 'minmax(200px, 1.6fr) minmax(110px, 1fr) 82px 82px 138px 150px 132px',
  columnGap: 1.75,
  px: 2.5,
  alignItems: 'center',
  borderBottom: 1,
  borderColor: 'divider',
} as const;

/** What indexes there are: how large, since when, and of what use. */
export function IndexTable({ collection, indexes }: { collection: string; indexes: readonly IndexInfo[] }) {
  return (
    <Box role="table" aria-label="Indexes" sx={{ bgcolor: 'background.paper' }}>
      <Box role="row" sx={{ ...grid, height: 30, fontSize: 11.5, fontWeight: 600, color: 'text.secondary' }}>
        <span role="columnheader">keys</span>
        <span role="columnheader">name</span>
        <Box role="columnheader" sx={{ textAlign: 'right' }}>
          entries
        </Box>
        <Box role="columnheader" sx={{ textAlign: 'right' }}>
          memory
        </Box>
        <span role="columnheader">used by runs</span>
        <span role="columnheader">built</span>
        <Box role="columnheader">
          <span style={visuallyHidden}>actions</span>
        </Box>
      </Box>
      {indexes.map((index) => (
        <IndexRow key={index.name} collection={collection} index={index} />
      ))}
    </Box>
  );
}

function when(instant: string): string {
  return new Date(instant).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
}

function IndexRow({ collection, index }: { collection: string; index: IndexInfo }) {
  const facts = [...viewOfKind(index.kind).facts(index), ...(index.where === null ? [] : [`only where ${index.where}`])];
  const [isOpen, setOpen] = useState(false);
  const [isDropping, setDropping] = useState(false);
  return (
    <>
      <Box role="row" sx={{ ...grid, minHeight: 46, py: 0.75 }}>
        <Box role="cell" sx={{ minWidth: 0 }}>
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
        </Box>
        <Box role="cell" sx={{ overflowWrap: 'anywhere', fontSize: 12.5 }}>
          {index.name}
        </Box>
        <Box role="cell" sx={{ textAlign: 'right' }}>
          {count(index.entries)}
        </Box>
        <Box role="cell" sx={{ textAlign: 'right' }}>
          {bytes(index.bytes)}
        </Box>
        <Box role="cell" sx={{ fontSize: 12.5 }}>
          {
            index.uses === 0 ? <Box component="span" sx={{ color: 'text.secondary' }}>never yet</Box> : counted(index.uses, 'run') /* prettier-ignore */
          }
          {index.lastUsedAt !== null && <Box sx={{ fontSize: 11.5, color: 'text.secondary' }}>last {when(index.lastUsedAt)}</Box>}
        </Box>
        <Box role="cell" sx={{ fontSize: 12, color: 'text.secondary' }}>
          {index.createdAt === null ? 'with the collection' : when(index.createdAt)}
          {index.buildMs !== null && `, in ${duration(index.buildMs)}`}
        </Box>
        <Box role="cell" sx={{ whiteSpace: 'nowrap', textAlign: 'right' }}>
          <Button aria-expanded={isOpen} onClick={() => setOpen(!isOpen)} sx={{ minWidth: 0, color: 'text.secondary' }}>
            Values
          </Button>
          {index.createdAt !== null && (
            <Button color="error" onClick={() => setDropping(true)} sx={{ minWidth: 0 }}>
              Drop
            </Button>
          )}
        </Box>
      </Box>
      {isOpen && <IndexValues collection={collection} index={index} />}
      {isDropping && <DropDialog collection={collection} index={index} onClose={() => setDropping(false)} />}
    </>
  );
}
