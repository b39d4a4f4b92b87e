import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import type { IndexBuild } from '@zesty-sieve/contract';
import { useEffect, useState } from 'react';
import { percent } from './numbers.ts';
import { useCancelBuildMutation, useIndexesQuery } from '../api/indexes.ts';

/** How often the list is looked at while an index is being built. */
const pollMs = 250;

/**
 * The indexes of a collection that are being built, by this window or another: how far they have come, and a way to end
 * them. Questions go on meanwhile; changes of the collection wait for them.
 * @param isAwaited whether one was asked for here that the server may not have told of yet
 */
export function IndexBuilds({ collection, isAwaited }: { collection: string; isAwaited: boolean }) {
  const [pollingInterval, setPollingInterval] = useState(0);
  const { data } = useIndexesQuery(collection, { pollingInterval });
  const [cancel, { isLoading: isEnding }] = useCancelBuildMutation();
  const builds = data?.building ?? [];
  const isUnderWay = isAwaited || builds.length > 0;
  useEffect(() => setPollingInterval(isUnderWay ? pollMs : 0), [isUnderWay]);
  if (!isUnderWay) return null;
  const shown = builds.length > 0 ? builds : [undefined];
  return (
    <Box
      component="section"
      aria-label="Being built"
      aria-live="polite"
      sx={{ borderBottom: 1, borderColor: 'divider', bgcolor: 'background.paper' }}
    >
      {shown.map((build) => (
        <Box key={build?.name ?? ''} sx={{ display: 'flex', alignItems: 'center', gap: 2, px: 2.5, py: 0.75 }}>
          <Box sx={{ fontSize: 12.5, whiteSpace: 'nowrap' }}>{build === undefined ? 'Building …' : toldOf(build)}</Box>
          <LinearProgress
            sx={{ flex: 1 }}
            color="info"
            aria-label={`Building ${build?.name ?? ''}`}
            {...(build !== undefined && build.phase !== 'waiting' && { variant: 'determinate' as const, value: build.share * 100 })}
          />
          <Button
            disabled={build === undefined || isEnding}
            aria-label={`Cancel building ${build?.name ?? ''}`}
            onClick={() => build && void cancel({ collection, name: build.name })}
          >
            Cancel
          </Button>
        </Box>
      ))}
    </Box>
  );
}

const phases: Readonly<Record<IndexBuild['phase'], string>> = {
  waiting: 'bringing the collection into memory',
  reading: 'reading the keys',
  sorting: 'sorting the entries',
  filling: 'laying the entries down',
};

function toldOf({ name, phase, share }: IndexBuild): string {
  return `Building ${name}: ${phases[phase]}${phase === 'waiting' ? '' : `, ${percent(share)}`}`;
}
