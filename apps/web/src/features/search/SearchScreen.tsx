import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { CollectionInfo } from '@zesty-sieve/contract';
import { useEffect, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { useCollectionsQuery } from '../../api/collections.ts';
import { useIndexesQuery } from '../../api/indexes.ts';
import { problemText } from '../../api/problems.ts';
import { useShapeQuery } from '../../api/shapes.ts';
import { useAppDispatch } from '../../app/store.ts';
import { NoCollections } from '../../parts/NoCollections.tsx';
import { useKept } from '../../parts/useKept.ts';
import { opened } from '../../state/bench/benchSlice.ts';
import { typedFor } from '../../state/bench/parameters.ts';
import { Answer } from './Answer.tsx';
import { SearchBar } from './SearchBar.tsx';
import { SearchCost } from './SearchCost.tsx';
import { SettingsBar } from './SettingsBar.tsx';
import { firstSettings, searchable, type SearchSettings } from './settings.ts';
import { useSearch, type Sought } from './useSearch.ts';

/** One question, several rankings, and why each result stands where it does. */
export function SearchScreen() {
  const { data: collections, error } = useCollectionsQuery();
  const [params, setParams] = useSearchParams();
  const [last, keepLast] = useKept<string>('search in', '', () => true);
  const name = params.get('in') ?? (collections?.find((one) => one.name === last) ?? likeliest(collections ?? []))?.name;
  const collection = collections?.find((one) => one.name === name);
  const choose = (next: string) => {
    keepLast(next);
    setParams({ in: next });
  };
  if (collections === undefined) return error === undefined ? null : <Box sx={{ p: 4, color: 'error.main' }}>{problemText(error)}</Box>;
  if (collections.length === 0) return <NoCollections why="There is nothing to search in yet: bring documents in first." />;
  if (collection === undefined) return <Box sx={{ p: 4, color: 'text.secondary' }}>{`There is no collection ${name}.`}</Box>;
  return (
    <SearchOf
      key={collection.name}
      collection={collection.name}
      count={collection.count}
      identity={collection.identity}
      others={collections.map((one) => one.name)}
      words={params.get('words') ?? ''}
      onCollection={choose}
      onWords={(words) => setParams({ in: collection.name, words })}
    />
  );
}

/** The largest of those that have an index of words or of meanings, or of all. */
function likeliest(collections: readonly CollectionInfo[]): CollectionInfo | undefined {
  const bySize = collections.toSorted((a, b) => b.count - a.count);
  return bySize.find(({ indexKinds = [] }) => indexKinds.includes('text') || indexKinds.includes('vector')) ?? bySize[0];
}

interface SearchOfProps {
  readonly collection: string;
  readonly count: number;
  readonly identity: string;
  readonly others: readonly string[];
  /** As the address has them. */
  readonly words: string;
  readonly onCollection: (name: string) => void;
  readonly onWords: (words: string) => void;
}

function SearchOf({ collection, count, identity, others, words, onCollection, onWords }: SearchOfProps) {
  const { data: shape, error } = useShapeQuery(collection);
  const { data: indexes } = useIndexesQuery(collection);
  const [changed, setChanged] = useState<SearchSettings>();
  const [sought, setSought] = useState<Sought>();
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const settings = changed ?? (shape && indexes && firstSettings(shape, indexes.indexes));
  const { searched, problem, isSearching } = useSearch(sought);
  const search = (asked: string, by: SearchSettings) => {
    setSought({ collection, identity, words: asked, texts: shape ? searchable(shape).texts : [], settings: by, once: Date.now() });
    if (asked !== words) onWords(asked);
  };
  // An address that somebody was given asks at once.
  const isReady = settings !== undefined;
  useEffect(() => {
    if (isReady && words !== '' && sought === undefined) search(words, settings);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when what can be searched is known
  }, [isReady]);
  const openOnBench = () => {
    if (searched === undefined || sought === undefined) return;
    dispatch(opened({ text: searched.pipelines.fused, parameters: typedFor({ words: sought.words }) }));
    void navigate('/bench');
  };
  if (error !== undefined) return <Box sx={{ p: 4, color: 'error.main' }}>{problemText(error)}</Box>;
  if (settings === undefined || shape === undefined)
    return <Box sx={{ p: 4, color: 'text.secondary' }}>Looking at what {collection} has to search in …</Box>;
  const has = searchable(shape);
  const isEmpty = has.texts.length === 0 && has.vectors.length === 0;
  return (
    <Box sx={{ flex: 1, minWidth: 0, display: 'flex', flexDirection: 'column' }}>
      <SearchBar
        collection={collection}
        count={count}
        others={others}
        words={sought?.words ?? words}
        best={settings.best}
        isSearching={isSearching}
        isPossible={settings.paths.length > 0 || settings.vector !== null}
        onCollection={onCollection}
        onBest={(best) => setChanged({ ...settings, best })}
        onSearch={(asked) => search(asked, settings)}
      >
        <Button variant="outlined" disabled={searched === undefined} onClick={openOnBench} sx={{ borderColor: 'divider' }}>
          Open on the Bench
        </Button>
      </SearchBar>
      {isEmpty ? (
        <Box sx={{ p: 4, color: 'text.secondary' }}>
          {collection} has no texts of some length and no vectors, so there is nothing to search in.
        </Box>
      ) : (
        <SettingsBar
          collection={collection}
          indexes={indexes?.indexes ?? []}
          settings={settings}
          texts={has.texts}
          vectors={has.vectors}
          onChange={(next) => {
            setChanged(next);
            if (sought !== undefined) search(sought.words, next);
          }}
        />
      )}
      {problem !== undefined && (
        <Box role="alert" sx={{ px: 2.5, py: 1, color: 'error.main' }}>
          {problem}
        </Box>
      )}
      {!isEmpty && <Answer searched={searched} sought={sought} isSearching={isSearching} />}
      {searched && <SearchCost answer={searched.answer} />}
    </Box>
  );
}
