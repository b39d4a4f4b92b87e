import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import { useSnackbar } from 'notistack';
import { useEffect, useRef } from 'react';
import { useNavigate, useParams } from 'react-router';
import { checkPipeline, parsePipeline } from '@zesty-sieve/core/language';
import { problemText, useCollectionsQuery, useCreateIndexMutation, useIndexesQuery } from '../../api/api.ts';
import { useAppSelector } from '../../app/store.ts';
import { CollectionList } from '../../parts/CollectionList.tsx';
import { bytes, count, counted } from '../../parts/numbers.ts';
import { AdvicePanel } from './AdvicePanel.tsx';
import { IndexTable } from './IndexTable.tsx';
import { NewIndex, type NewIndexRequest } from './NewIndex.tsx';

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

/** How often the list is looked at while an index is being built. */
const buildPollMs = 700;

function Indexes({ collection }: { collection: string }) {
  const { enqueueSnackbar } = useSnackbar();
  const [create, { error: refused, isLoading: isBuilding, reset }] = useCreateIndexMutation();
  const building = useRef<ReturnType<typeof create> | null>(null);
  const { data, error, isFetching } = useIndexesQuery(collection, {
    refetchOnMountOrArgChange: true,
    ...(isBuilding && { pollingInterval: buildPollMs }),
  });
  const indexes = data?.indexes;
  const total = indexes?.reduce((sum, index) => sum + index.bytes, 0) ?? 0;
  const build = async (asked: NewIndexRequest) => {
    const started = (building.current = create({ collection, ...asked }));
    const made = await started;
    building.current = null;
    if (made.error) return false;
    enqueueSnackbar(`The index ${made.data.name} is built: ${counted(made.data.entries, 'entry', 'entries')}.`);
    return true;
  };
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
      <NewIndex
        collection={collection}
        isBuilding={isBuilding}
        problem={refused === undefined ? undefined : problemText(refused)}
        onBuild={build}
        onTyped={reset}
      />
      {isBuilding && <Building progress={data?.building[0]} onCancel={() => building.current?.abort()} />}
      <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto' }}>
        {error !== undefined && <Box sx={{ p: 2.5, color: 'error.main' }}>{problemText(error)}</Box>}
        {indexes && <AdvicePanel collection={collection} indexes={indexes} />}
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

/** How far a build has come. Questions go on meanwhile; changes of the collection wait for it. */
function Building({ progress, onCancel }: { progress: { name: string; documents: number; of: number } | undefined; onCancel: () => void }) {
  const share = progress === undefined || progress.of === 0 ? undefined : progress.documents / progress.of;
  return (
    <Box
      aria-live="polite"
      sx={{ display: 'flex', alignItems: 'center', gap: 2, px: 2.5, py: 0.75, borderBottom: 1, borderColor: 'divider' }}
    >
      <Box sx={{ fontSize: 12.5, whiteSpace: 'nowrap' }}>
        {progress === undefined
          ? 'Building …'
          : progress.documents < progress.of
            ? `Building ${progress.name}: ${count(progress.documents)} of ${count(progress.of)} documents`
            : `Building ${progress.name}: sorting its entries`}
      </Box>
      <LinearProgress
        sx={{ flex: 1 }}
        aria-label="Building"
        {...(share === undefined ? {} : { variant: 'determinate' as const, value: share * 100 })}
      />
      <Button onClick={onCancel}>Cancel</Button>
    </Box>
  );
}
