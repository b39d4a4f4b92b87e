import Box from '@mui/material/Box';
import { useState } from 'react';
import { codeFont } from '../../app/theme.ts';
import { Passage } from './Passage.tsx';
import { RankLines, rowHeight } from './RankLines.tsx';
import type { Found, Searched, Sought } from './useSearch.ts';
import { Why } from './Why.tsx';

interface AnswerProps {
  readonly searched: Searched | undefined;
  readonly sought: Sought | undefined;
  readonly isSearching: boolean;
}

/** The best, with their passages; beside them the places that each ranking gave. */
export function Answer({ searched, sought, isSearching }: AnswerProps) {
  const [chosen, setChosen] = useState<Found['identity']>();
  if (searched === undefined || sought === undefined)
    return (
      <Box sx={{ flex: 1, p: 4, color: 'text.secondary', maxWidth: 620 }}>
        {isSearching
          ? 'Searching …'
          : 'Type words and press Enter. A word that ends in * is a beginning, one that ends in ~ may differ by a letter. Each result shows why it stands where it does.'}
      </Box>
    );
  const { results } = searched;
  if (results.length === 0)
    return (
      <Box sx={{ flex: 1, p: 4, color: 'text.secondary', maxWidth: 620 }}>
        Nothing answers “{sought.words}”{sought.settings.where.trim() !== '' && ' among the documents that are asked for'}. Stop words alone find nothing; fewer
        words, a beginning (bridg*), or other fields may.
      </Box>
    );
  const at = results.findIndex(({ identity }) => identity === chosen);
  return (
    <Box sx={{ flex: 1, minHeight: 0, overflow: 'auto', position: 'relative' }} tabIndex={0} aria-label="Answer">
      <Box sx={{ display: 'flex', position: 'relative', minWidth: 900 }}>
        <Box component="ol" sx={{ m: 0, p: 0, pt: 4.5, flex: 1, minWidth: 0, listStyle: 'none' }}>
          {results.map((found, i) => (
            <Result key={String(found.identity)} found={found} place={i + 1} isChosen={i === at} onChoose={() => setChosen(i === at ? undefined : found.identity)} />
          ))}
        </Box>
        <RankLines searched={searched} chosen={at} />
        {at >= 0 && <Why key={String(chosen)} found={results[at]!} place={at + 1} top={36 + Math.min(at + 1, Math.max(0, results.length - 4)) * rowHeight} searched={searched} sought={sought} onClose={() => setChosen(undefined)} />}
      </Box>
    </Box>
  );
} // prettier-ignore

interface ResultProps {
  readonly found: Found;
  readonly place: number;
  readonly isChosen: boolean;
  readonly onChoose: () => void;
}

function Result({ found, place, isChosen, onChoose }: ResultProps) {
  const { identity, title, passage, beginning } = found;
  const shown = passage ?? (typeof beginning === 'string' ? beginning : '');
  return (
    <Box component="li">
      <Box
        component="button"
        type="button"
        aria-expanded={isChosen}
        title="Why it stands here"
        onClick={onChoose}
        sx={{
          all: 'unset',
          boxSizing: 'border-box',
          display: 'flex',
          gap: 1.75,
          width: '100%',
          height: rowHeight,
          px: 2.5,
          py: 0.75,
          cursor: 'pointer',
          borderBottom: 1,
          borderColor: 'divider',
          bgcolor: (t) => (isChosen ? t.roles.flowSoft : 'transparent'),
          '&:hover': { bgcolor: (t) => (isChosen ? t.roles.flowSoft : t.roles.form) },
          '&:focus-visible': { outline: 'auto', outlineOffset: -2 },
        }}
      >
        <Box component="span" sx={{ width: 18, color: 'text.secondary', textAlign: 'right' }}>
          {place}
        </Box>
        <Box component="span" sx={{ minWidth: 0, flex: 1 }}>
          <Box component="span" sx={{ display: 'flex', gap: 1, alignItems: 'baseline' }}>
            <Box component="b" sx={{ fontWeight: 650, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
              {typeof title === 'string' && title !== '' ? title : String(identity)}
            </Box>
            <Box component="code" sx={{ fontFamily: codeFont, fontSize: 11, color: 'text.secondary' }}>
              {String(identity)}
            </Box>
          </Box>
          <Box component="span" sx={{ display: 'block', fontSize: 12, color: 'text.secondary', overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
            <Passage text={shown} />
          </Box>
        </Box>
      </Box>
    </Box>
  );
} // prettier-ignore
