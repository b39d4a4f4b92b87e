import Box from '@mui/material/Box';
import type { IndexInfo } from '@zesty-sieve/contract';
import { useIndexSummaryQuery } from '../../api/indexes.ts';
import { problemText } from '../../api/problems.ts';
import { codeFont } from '../../app/theme.ts';
import { count, counted, percent } from '../../parts/numbers.ts';

const show = (value: unknown): string =>
  value === undefined || value === null ? 'nothing' : typeof value === 'string' ? value : JSON.stringify(value);

/** What the index knows of its first key: how many values, which are common, where the tenths lie. */
export function IndexValues({ collection, index }: { collection: string; index: IndexInfo }) {
  const { data, error } = useIndexSummaryQuery({ collection, name: index.name });
  return (
    <Box
      role="region"
      aria-label={`Values of ${index.name}`}
      sx={{ px: 2.5, py: 1.25, bgcolor: (t) => t.roles.form, borderBottom: 1, borderColor: 'divider', fontSize: 12.5 }}
    >
      {error !== undefined && <Box sx={{ color: 'error.main' }}>{problemText(error)}</Box>}
      {data && (
        <>
          <Box>
            <code>{index.keys[0]}</code> has about {counted(data.distinct, 'different value')}
            {data.least !== undefined && (
              <>
                , from <b>{show(data.least)}</b> to <b>{show(data.greatest)}</b>
              </>
            )}
            . {data.absent > 0 && `${counted(data.absent, 'document')} have none of its keys.`}
          </Box>
          {data.common.length > 0 && (
            <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', pt: 0.75 }}>
              {data.common.map(({ value, count: n }) => (
                <Box key={show(value)} component="span">
                  <Box component="span" sx={{ fontFamily: codeFont, fontSize: 12 }}>
                    {show(value)}
                  </Box>{' '}
                  {count(n)}, {percent(n / Math.max(1, data.entries))}
                </Box>
              ))}
            </Box>
          )}
          <Box sx={{ pt: 0.75, color: 'text.secondary', overflowWrap: 'anywhere' }}>
            Tenths of the entries: {data.quantiles.map(show).join(' · ')}
          </Box>
        </>
      )}
    </Box>
  );
}
