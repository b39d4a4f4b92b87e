import Box from '@mui/material/Box';
import { skipToken } from '@reduxjs/toolkit/query';
import { useAnalysedQuery, useAnswerQuery } from '../../api/searching.ts';
import { codeFont } from '../../app/theme.ts';
import type { Found, Sought } from './useSearch.ts';

/** A document's texts as the index sees them: each word with what it is compared as. */
export function Seen({ sought, found, terms }: { readonly sought: Sought; readonly found: Found; readonly terms: ReadonlySet<string> }) {
  const { collection, identity, settings } = sought;
  const items = settings.paths.map(({ path }, i) => `${path} as t${i}`);
  const { data } = useAnswerQuery({ pipeline: `from ${collection}\nwhere ${identity} == ${JSON.stringify(found.identity)}\nselect ${items.join(', ')}`, parameters: {}, pageSize: 1 });
  const row = data?.documents[0] as Record<string, unknown> | undefined;
  const texts = row === undefined ? undefined : settings.paths.map((_, i) => textOf(row[`t${i}`]));
  const { data: seen } = useAnalysedQuery(texts === undefined ? skipToken : { texts, ...(settings.language && { language: settings.language }) });
  return (
    <Box sx={{ maxHeight: 180, overflow: 'auto', fontSize: 12 }} tabIndex={0} aria-label="What the index sees">
      {seen?.texts.map((words, t) => (
        <Box key={t} sx={{ mb: 1, display: 'grid', gridTemplateColumns: 'minmax(0, 1fr) minmax(0, 1fr)', gap: 1.5 }}>
          <Box sx={{ color: 'text.secondary' }}>{texts?.[t]}</Box>
          <Box sx={{ fontFamily: codeFont, fontSize: 11.5 }}>
            {words.map(({ term, from }) => (
              <Box key={from} component="span" sx={{ mr: 0.75, color: term === null ? 'text.secondary' : terms.has(term) ? 'secondary.main' : 'text.primary', fontWeight: term !== null && terms.has(term) ? 700 : 400 }}>
                {term ?? '·'}{' '}
              </Box>
            ))}
          </Box>
        </Box>
      ))}
    </Box>
  );
} // prettier-ignore

const textOf = (value: unknown): string =>
  typeof value === 'string' ? value : Array.isArray(value) ? value.filter((one) => typeof one === 'string').join(' ') : '';
