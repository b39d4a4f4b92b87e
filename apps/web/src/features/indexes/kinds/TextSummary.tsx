import Box from '@mui/material/Box';
import { codeFont } from '../../../app/theme.ts';
import { count, counted } from '../../../parts/numbers.ts';
import type { SummaryOf } from './kind.ts';

/** Of each path: how many texts, how many different words, and which most texts have. */
export function TextSummary({ summary: { paths } }: { readonly summary: SummaryOf<'text'> }) {
  return (
    <>
      {paths.map(({ path, documents, terms, words, commonest }) => (
        <Box key={path} sx={{ py: 0.5 }}>
          <code>{path}</code>: {counted(documents, 'text')} of {count(Math.round(words / Math.max(1, documents)))} words on average, {counted(terms, 'different term')}
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', pt: 0.5 }}>
            {commonest.map(({ term, documents: having }) => (
              <span key={term}>
                <Box component="span" sx={{ fontFamily: codeFont, fontSize: 12 }}>
                  {term}
                </Box>{' '}
                {count(having)}
              </span>
            ))}
          </Box>
        </Box>
      ))}
    </>
  );
} // prettier-ignore
