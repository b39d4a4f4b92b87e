import { headingOf } from './kinds/registry.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { IndexInfo } from '@zesty-sieve/contract';
import { useAdviceQuery } from '../../api/indexes.ts';
import { codeFont, veil } from '../../app/theme.ts';
import { IndexKeys } from '../../parts/plan/IndexKeys.tsx';
import { indexesOf, keysText, requestOf } from '../../parts/plan/indexNames.ts';
import { bytes, count, counted } from '../../parts/numbers.ts';
import { AdvisedViews } from './AdvisedViews.tsx';
import { IdleViews } from './IdleViews.tsx';
import { useDropWithUndo } from './DropDialog.tsx';
import { Served } from '../../parts/Served.tsx';
import { useBuildIndex } from './useBuildIndex.ts';

/** What the kept runs say of a collection's indexes: which few would save most, and which are of no use. */
export function AdvicePanel({ collection, indexes }: { collection: string; indexes: readonly IndexInfo[] }) {
  const { data: advice } = useAdviceQuery(undefined, { refetchOnMountOrArgChange: true });
  const { build: buildIndex, isBuilding, problem } = useBuildIndex(collection);
  const { drop, isDropping } = useDropWithUndo(collection);
  const build = advice?.build.filter((one) => one.collection === collection) ?? [];
  const buildAll = async (several: ReturnType<typeof indexesOf>) => {
    for (const index of several) if (!(await buildIndex(requestOf(index)))) return;
  };
  const here = (name: string) => indexes.find((index) => index.name === name);
  const idle = [
    ...(advice?.unused ?? [])
      .filter((one) => one.collection === collection)
      .map(({ index, bytes: size, runsSince }) => ({
        index: here(index),
        why: `of no use to any of ${counted(runsSince, 'run')}; it takes ${bytes(size)} and work with every change`,
      })),
    ...(advice?.covered ?? [])
      .filter((one) => one.collection === collection)
      .map(({ index, by, bytes: size }) => ({
        index: here(index),
        why: `covered: ${by} begins with the same keys and serves what it serves; it takes ${bytes(size)}`,
      })),
  ].flatMap(({ index, why }) => (index === undefined ? [] : [{ index, why }]));
  const views = advice?.views.filter((one) => one.collection === collection) ?? [];
  const idleViews = advice?.idleViews.filter(({ collections }) => collections.includes(collection)) ?? [];
  if (build.length + idle.length + views.length + idleViews.length === 0) return null;
  return (
    <Box
      component="section"
      aria-label="Advice"
      sx={{
        background: ({ roles }) => `linear-gradient(${veil(roles.index, 0.05)} 0 0), ${roles.surface}`,
        borderBottom: 1,
        borderColor: 'divider',
        px: 2.5,
        py: 1.25,
      }}
    >
      <Box component="h3" sx={{ m: 0, pb: 0.5, fontSize: 13, fontWeight: 700 }}>
        What {counted(advice?.runs ?? 0, 'run')} would have been served by
      </Box>
      {problem !== undefined && <Box sx={{ fontSize: 12.5, color: 'error.main' }}>{problem}</Box>}
      {build.map(({ keys, beside, kind, language, metric, documentsSaved, serves }) => (
        <Box key={keysText(indexesOf({ keys, beside, kind, language, metric }))} sx={{ py: 0.75 }}>
          <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 12.5 }}>
            <Box sx={{ flex: 1 }}>
              <b>
                <IndexKeys indexes={indexesOf({ keys, beside, kind, language, metric })} />
              </b>{' '}
              {beside && 'together '}would have saved about <b>{count(documentsSaved)}</b> document reads
            </Box>
            <Button
              variant="outlined"
              color="info"
              disabled={isBuilding}
              onClick={() => void buildAll(indexesOf({ keys, beside, kind, language, metric }))}
            >
              {beside ? 'Build them' : 'Build it'}
            </Button>
          </Box>
          <Served
            label={`Served by ${keysText(indexesOf({ keys, beside, kind, language, metric }))}`}
            questions={serves.slice(0, 4).map(({ documentsRead, instead, ...one }) => ({ ...one, from: documentsRead, to: instead }))}
          />
        </Box>
      ))}
      <AdvisedViews views={views} />
      <IdleViews views={idleViews} />
      {idle.map(({ index, why }) => (
        <Box key={index.name + why} sx={{ display: 'flex', gap: 1.5, alignItems: 'center', fontSize: 12.5, py: 0.5 }}>
          <Box sx={{ flex: 1 }}>
            <Box component="b" sx={{ fontFamily: codeFont, fontVariantLigatures: 'none' }}>
              {headingOf(index)}
            </Box>{' '}
            is {why}
          </Box>
          <Button variant="outlined" color="error" disabled={isDropping} onClick={() => void drop(index)}>
            Drop {index.name}
          </Button>
        </Box>
      ))}
    </Box>
  );
}
