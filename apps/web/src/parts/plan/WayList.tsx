import Box from '@mui/material/Box';
import type { WeighedWay } from '@zesty-sieve/contract';
import { Fragment, type ReactNode } from 'react';
import { counted } from '../numbers.ts';
import { Code } from './StepTable.tsx';
import { capital, linesText } from './steps.ts';

/** The ways that were weighed, together for the lines that they are for. */
export function WayList({ weighed }: { weighed: readonly WeighedWay[] }) {
  return byLines(weighed).map((ways) => (
    <Fragment key={ways[0]!.lines.join()}>
      <Heading>
        Ways weighed for {ways[0]!.lines.length === 1 ? 'line' : 'lines'} {linesText(ways[0]!.lines)}
      </Heading>
      {ways.map((way, i) => (
        <WayRow key={i} way={way} />
      ))}
    </Fragment>
  ));
}

function byLines(weighed: readonly WeighedWay[]): WeighedWay[][] {
  const groups = new Map<string, WeighedWay[]>();
  for (const way of weighed) groups.set(way.lines.join(), [...(groups.get(way.lines.join()) ?? []), way]);
  return [...groups.values()];
}

export function Heading({ children }: { children: ReactNode }) {
  return (
    <Box component="h3" sx={{ m: 0, px: 2, pt: 2, pb: 0.75, fontSize: 13, fontWeight: 700 }}>
      {children}
    </Box>
  );
}

export const wayGrid = {
  display: 'grid',
  gridTemplateColumns: 'minmax(0, 1fr) 130px',
  columnGap: 1.5,
  px: 2,
  py: 0.9,
  alignItems: 'center',
  borderBottom: 1,
  borderColor: 'divider',
  fontSize: 12.5,
} as const;

function WayRow({ way }: { way: WeighedWay }) {
  const useless = way.documentsRead === undefined;
  return (
    <Box sx={wayGrid}>
      <Box sx={{ minWidth: 0, overflowWrap: 'anywhere' }}>
        <Box
          component="b"
          sx={{ fontWeight: 650, color: (t) => (useless ? t.roles.softInk : way.way === 'full scan' ? t.roles.scan : t.roles.index) }}
        >
          {useless && way.way !== 'materialized view scan' ? 'Index' : capital(way.way)}
          {way.whatIf && ', what if'}
        </Box>{' '}
        {way.keys && <Code>{way.keys.join(', ')}</Code>}
        {way.way === 'materialized view scan' && <Code>{way.collection}</Code>}{' '}
        <Box component="span" sx={{ color: 'text.secondary', fontSize: 12 }}>
          {way.chosen ? 'chosen: ' : useless ? 'of no use: ' : ''}
          {way.reason}
        </Box>
      </Box>
      <Box sx={{ textAlign: 'right', fontWeight: way.chosen ? 650 : 400 }}>
        {way.documentsRead === undefined ? '–' : counted(way.documentsRead, 'read')}
      </Box>
    </Box>
  );
}
