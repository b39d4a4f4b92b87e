import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useSnackbar } from 'notistack';
import { useEffect } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { IndexInfo } from '@zesty-sieve/contract';
import { checkPipeline, parsePipeline } from '@zesty-sieve/core/language';
import { problemText, useCollectionsQuery, useCreateIndexMutation, useDropIndexMutation, useIndexesQuery } from '../../api/api.ts';
import { useAppSelector } from '../../app/store.ts';
import { codeFont } from '../../app/theme.ts';
import { CollectionList } from '../../parts/CollectionList.tsx';
import { bytes, count, counted, duration } from '../../parts/numbers.ts';
import { NewIndex } from './NewIndex.tsx';

/** The indexes of a collection: what there is, building one, dropping one. */
export function IndexesScreen() {
  const { collection: name } = useParams();
  const { data: collections } = useCollectionsQuery();
  const navigate = useNavigate();
  const text = useAppSelector(({ bench }) => bench.text);
  useEffect(() => {
    if (name !== undefined || collections === undefined) return;
    // The collection that the Bench asks about, or else the largest.
    const { source } = checkPipeline(parsePipeline(text));
    const [largest] = [...collections].sort((a, b) => b.count - a.count);
    const first = collections.find((collection) => collection.name === source) ?? largest;
    if (first !== undefined) void navigate(`/indexes/${encodeURIComponent(first.name)}`, { replace: true });
  }, [name, collections, navigate, text]);
  const isKnown = collections?.some((collection) => collection.name === name);
  return (
    <>
      <CollectionList base="/indexes" />
      <Box sx={{ flex: 1, minWidth: 0, display: 'flex', flexDirection: 'column' }}>
        {name !== undefined && isKnown && <Indexes key={name} collection={name} />}
        {collections && !isKnown && (
          <Box sx={{ p: 4, color: 'text.secondary' }}>
            {name === undefined
              ? 'Indexes belong to collections, and there are none yet. Make one on the Data screen.'
              : `There is no collection ${name}.`}
          </Box>
        )}
      </Box>
    </>
  );
}

function Indexes({ collection }: { collection: string }) {
  const { data: indexes, error, isFetching } = useIndexesQuery(collection, { refetchOnMountOrArgChange: true });
  const total = indexes?.reduce((sum, index) => sum + index.bytes, 0) ?? 0;
  return (
    <>
      <Box sx={{ px: 2.5, py: 1.5, bgcolor: 'background.paper', borderBottom: 1, borderColor: 'divider' }}>
        <Box component="h2" sx={{ m: 0, fontSize: 16, fontWeight: 700 }}>
          Indexes of {collection}
        </Box>
        <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
          {indexes
            ? `${counted(indexes.length, 'index', 'indexes')}, ${bytes(total)} in memory`
            : isFetching
              ? 'Bringing the collection into memory …'
              : ''}
        </Box>
      </Box>
      <NewIndex collection={collection} />
      <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto' }}>
        {error !== undefined && <Box sx={{ p: 2.5, color: 'error.main' }}>{problemText(error)}</Box>}
        {indexes && <IndexTable collection={collection} indexes={indexes} />}
        {indexes?.length === 1 && (
          <Box sx={{ px: 2.5, py: 2, color: 'text.secondary', maxWidth: 620 }}>
            Only the identity is indexed. An index helps a pipeline that asks for few of the documents, or wants them in an order: run one
            on the Bench, and its plan says which index would help.
          </Box>
        )}
      </Box>
    </>
  );
}

const grid = {
  display: 'grid',
  gridTemplateColumns: 'minmax(220px, 1.6fr) minmax(140px, 1fr) 100px 90px 150px 76px',
  columnGap: 2,
  px: 2.5,
  alignItems: 'center',
  borderBottom: 1,
  borderColor: 'divider',
} as const;

function IndexTable({ collection, indexes }: { collection: string; indexes: readonly IndexInfo[] }) {
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
        <span role="columnheader">built</span>
        <span role="columnheader" aria-label="Actions" />
      </Box>
      {indexes.map((index) => (
        <IndexRow key={index.name} collection={collection} index={index} />
      ))}
    </Box>
  );
}

function IndexRow({ collection, index }: { collection: string; index: IndexInfo }) {
  const [drop, { isLoading }] = useDropIndexMutation();
  const [create] = useCreateIndexMutation();
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  const built =
    index.createdAt === null
      ? 'with the collection'
      : new Date(index.createdAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
  const rebuild = () => {
    const { name, keys, unique, where } = index;
    void create({ collection, name, keys, unique, ...(where !== null && { where }) });
  };
  const onDrop = async () => {
    const done = await drop({ collection, name: index.name });
    if (done.error) {
      enqueueSnackbar(problemText(done.error), { variant: 'error' });
      return;
    }
    enqueueSnackbar(`Dropped the index on ${index.keys.join(', ')}.`, {
      action: (key) => (
        <Button
          color="inherit"
          onClick={() => {
            closeSnackbar(key);
            rebuild();
          }}
        >
          Build it again
        </Button>
      ),
    });
  };
  return (
    <Box role="row" sx={{ ...grid, minHeight: 46, py: 0.75 }}>
      <Box role="cell" sx={{ minWidth: 0 }}>
        <Box
          sx={{ fontFamily: codeFont, fontVariantLigatures: 'none', fontSize: 12.5, color: (t) => t.roles.index, overflowWrap: 'anywhere' }}
        >
          {index.keys.join(', ')}
        </Box>
        {(index.unique || index.where !== null) && (
          <Box sx={{ fontSize: 11.5, color: 'text.secondary' }}>
            {[index.unique && 'unique', index.where !== null && `only where ${index.where}`].filter(Boolean).join(', ')}
          </Box>
        )}
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
      <Box role="cell" sx={{ fontSize: 12, color: 'text.secondary' }}>
        {built}
        {index.buildMs !== null && `, in ${duration(index.buildMs)}`}
      </Box>
      <Box role="cell">
        {index.createdAt !== null && (
          <Button color="error" disabled={isLoading} onClick={() => void onDrop()}>
            Drop
          </Button>
        )}
      </Box>
    </Box>
  );
}
