import Box from '@mui/material/Box';
import { useEffect } from 'react';
import { useNavigate, useParams } from 'react-router';
import { checkPipeline, usualSurface } from '@zesty-sieve/core/language';
import { useCollectionsQuery } from '../../api/collections.ts';
import { useIndexesQuery } from '../../api/indexes.ts';
import { usePipelinesQuery } from '../../api/pipelines.ts';
import { problemText } from '../../api/problems.ts';
import { useAppSelector } from '../../app/store.ts';
import { NoCollections } from '../../parts/NoCollections.tsx';
import { useStillHere } from '../../parts/useStillHere.ts';
import { CollectionList } from '../../parts/CollectionList.tsx';
import { ViewList } from '../../parts/views/ViewList.tsx';
import { IndexBuilds } from '../../parts/IndexBuilds.tsx';
import { bytes, counted } from '../../parts/numbers.ts';
import { AdvicePanel } from './AdvicePanel.tsx';
import { IndexTable } from './IndexTable.tsx';
import { NewIndex } from './NewIndex.tsx';
import { useBuildIndex } from './useBuildIndex.ts';

/** The indexes of a collection: what there is, building one, dropping one. */
export function IndexesScreen() {
  const { collection: name } = useParams();
  const { data: collections } = useCollectionsQuery();
  const navigate = useNavigate();
  const text = useAppSelector(({ bench }) => bench.text);
  const isStillHere = useStillHere();
  useEffect(() => {
    if (name !== undefined || collections === undefined || !isStillHere()) return;
    // The collection that the Bench asks about, or else the largest.
    const { source } = checkPipeline(usualSurface.parse(text));
    const [largest] = [...collections].sort((a, b) => b.count - a.count);
    const first = collections.find((collection) => collection.name === source) ?? largest;
    if (first !== undefined) void navigate(`/indexes/${encodeURIComponent(first.name)}`, { replace: true });
  }, [name, collections, navigate, text, isStillHere]);
  const { data: pipelines } = usePipelinesQuery();
  // Rows that are kept have indexes as documents do.
  const isKnown =
    collections?.some((collection) => collection.name === name) === true ||
    pipelines?.some((one) => one.materialized !== null && one.name === name) === true;
  return (
    <>
      <CollectionList base="/indexes" below={(wanted) => <ViewList base="/indexes" wanted={wanted} keptOnly />} />
      <Box sx={{ flex: 1, minWidth: 0, display: 'flex', flexDirection: 'column' }}>
        {name !== undefined && isKnown && <Indexes key={name} collection={name} />}
        {collections && pipelines && !isKnown && name === undefined && (
          <NoCollections why="Indexes belong to collections, and there are none yet." />
        )}
        {collections && pipelines && !isKnown && name !== undefined && (
          <Box sx={{ p: 4, color: 'text.secondary' }}>{`There is no collection ${name}.`}</Box>
        )}
      </Box>
    </>
  );
}

function Indexes({ collection }: { collection: string }) {
  const { build, isBuilding, problem, reset } = useBuildIndex(collection);
  const { data, error, isFetching } = useIndexesQuery(collection, { refetchOnMountOrArgChange: true });
  const indexes = data?.indexes;
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
      <NewIndex collection={collection} isBuilding={isBuilding} problem={problem} onBuild={build} onTyped={reset} />
      <IndexBuilds collection={collection} isAwaited={isBuilding} />
      <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto' }}>
        {error !== undefined && <Box sx={{ p: 2.5, color: 'error.main' }}>{problemText(error)}</Box>}
        {indexes && <AdvicePanel collection={collection} indexes={indexes} />}
        {indexes && <IndexTable collection={collection} indexes={indexes} />}
        {indexes?.length === 1 && (
          <Box sx={{ px: 2.5, py: 2, color: 'text.secondary', maxWidth: 620 }}>
            No field is indexed by now. An index helps a pipeline that asks for few of the documents, or wants them in an order: run one on
            the Bench, and its plan says which index would help.
          </Box>
        )}
      </Box>
    </>
  );
}
