import Box from '@mui/material/Box';
import { codeFont } from '../../../app/theme.ts';
import { count, counted, percent } from '../../../parts/numbers.ts';
import type { InfoOf, SummaryOf } from './kind.ts';

const show = (value: unknown): string =>
  value === undefined || value === null ? 'nothing' : typeof value === 'string' ? value : JSON.stringify(value);

/** Of the first key: how many values, which are common, where the tenths lie. */
export function OrderedSummary({ index, summary }: { readonly index: InfoOf<'ordered'>; readonly summary: SummaryOf<'ordered'> }) {
  return (
    <>
      <Box>
        <code>{index.keys[0]}</code> has about {counted(summary.distinct, 'different value')}
        {summary.least !== undefined && (
          <>
            , from <b>{show(summary.least)}</b> to <b>{show(summary.greatest)}</b>
          </>
        )}
        . {summary.absent > 0 && `${counted(summary.absent, 'document')} have none of its keys.`}
      </Box>
      {summary.common.length > 0 && (
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', pt: 0.75 }}>
          {summary.common.map(({ value, count: n }) => (
            <Box key={show(value)} component="span">
              <Box component="span" sx={{ fontFamily: codeFont, fontSize: 12 }}>
                {show(value)}
              </Box>{' '}
              {count(n)}, {percent(n / Math.max(1, summary.entries))}
            </Box>
          ))}
        </Box>
      )}
      <Box sx={{ pt: 0.75, color: 'text.secondary', overflowWrap: 'anywhere' }}>
        Tenths of the entries: {summary.quantiles.map(show).join(' · ')}
      </Box>
    </>
  );
}
