import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Paper from '@mui/material/Paper';
import { useAnalysedQuery, useAnswerQuery } from '../../api/searching.ts';
import { count } from '../../parts/numbers.ts';
import { problemText } from '../../api/problems.ts';
import { Seen } from './Seen.tsx';
import { relevanceText } from './pipelines.ts';
import type { Found, Searched, Sought } from './useSearch.ts';
import { skipToken } from '@reduxjs/toolkit/query';
import { useState } from 'react';

interface WhyProps {
  readonly found: Found;
  readonly place: number;
  readonly top: number;
  readonly searched: Searched;
  readonly sought: Sought;
  readonly onClose: () => void;
}

const score = new Intl.NumberFormat('en', { maximumFractionDigits: 2, minimumFractionDigits: 2 });
const small = new Intl.NumberFormat('en', { maximumFractionDigits: 4, minimumFractionDigits: 4 });

/** Why a result stands where it does: each word's share of its score, and each ranking's share of the fusion. */
export function Why({ found, place, top, searched, sought, onClose }: WhyProps) {
  const [isSeen, setSeen] = useState(false);
  const { words, settings } = sought;
  const { data: seen } = useAnalysedQuery({ texts: [words], words, ...(settings.language && { language: settings.language }) });
  const asked = seen?.texts[0] ?? [];
  const terms = asked.flatMap(({ word, term, from }) => (term === null && !isMarked(words, from + word.length) ? [] : [{ word: word + markAt(words, from + word.length), term }]));
  const different = terms.filter(({ word }, i) => terms.findIndex((one) => one.word.toLowerCase() === word.toLowerCase()) === i);
  const shares = useAnswerQuery(settings.paths.length === 0 || different.length === 0 ? skipToken : { pipeline: sharesPipeline(sought, found, different.map(({ word }) => word)), parameters: {}, pageSize: 1 });
  const holders = useAnswerQuery(settings.paths.length === 0 || different.length === 0 ? skipToken : { pipeline: holdersPipeline(sought, different.map(({ word }) => word)), parameters: {}, pageSize: 1 });
  const own = shares.data?.documents[0] as Record<string, number | undefined> | undefined;
  const having = holders.data?.documents[0] as Record<string, number | undefined> | undefined;
  const largest = Math.max(...different.map((_, i) => own?.[`w${i}`] ?? 0), 1e-9);
  const stops = asked.filter(({ term, word, from }) => term === null && !isMarked(words, from + word.length));
  const placeIn = (ranking: readonly unknown[] | undefined) => {
    const at = ranking?.indexOf(found.identity) ?? -1;
    return at < 0 ? undefined : at + 1;
  };
  const [byWords, byMeaning] = [placeIn(searched.byWords), placeIn(searched.byMeaning)];
  const isFused = searched.byWords !== undefined;
  return (
    <Paper role="region" aria-label={`Why number ${place}`} elevation={3} sx={{ position: 'absolute', top, right: 316, width: 470, p: 2, zIndex: 2, border: 1, borderColor: 'divider', borderRadius: 2 }}>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', alignItems: 'baseline' }}>
        <Box component="h3" sx={{ m: 0, fontSize: 14, fontWeight: 700 }}>
          Why number {place}
        </Box>
        <Button size="small" onClick={onClose} sx={{ color: 'text.secondary', py: 0 }}>
          Close
        </Button>
      </Box>
      <Box sx={{ fontSize: 12, color: 'text.secondary', mb: 1 }}>
        {found.byWords !== undefined && `by words ${score.format(found.byWords)}${byWords === undefined ? '' : `, place ${byWords}`}`}
        {found.byWords !== undefined && found.byMeaning !== undefined && ' · '}
        {found.byMeaning !== undefined && `by meaning ${score.format(found.byMeaning)}${byMeaning === undefined ? '' : `, place ${byMeaning}`}`}
      </Box>
      {shares.error !== undefined && <Box sx={{ color: 'error.main', fontSize: 12 }}>{problemText(shares.error)}</Box>}
      {different.map(({ word, term }, i) => {
        const share = own?.[`w${i}`];
        return (
          <Box key={word} sx={{ display: 'grid', gridTemplateColumns: '110px 1fr 46px 130px', gap: 1, alignItems: 'center', fontSize: 12.5, py: 0.25 }}>
            <Box component="code" title={word} sx={{ overflow: 'hidden', textOverflow: 'ellipsis' }}>
              {term === null || /[*~]$/.test(word) ? word : term}
            </Box>
            <Box aria-hidden sx={{ height: 8, borderRadius: 1, width: `${((share ?? 0) / largest) * 100}%`, bgcolor: (t) => t.roles.flow }} />
            <Box sx={{ textAlign: 'right' }}>{share === undefined ? (own === undefined ? '' : '–') : score.format(share)}</Box>
            <Box sx={{ textAlign: 'right', color: 'text.secondary', fontSize: 12 }}>
              {share === undefined && own !== undefined ? 'not here' : ''}
              {having?.[`n${i}`] !== undefined && `${share === undefined ? ' · in' : 'in'} ${count(having[`n${i}`]!)}`}
            </Box>
          </Box>
        );
      })}
      {stops.map(({ word, from }) => (
        <Box key={from} sx={{ display: 'grid', gridTemplateColumns: '110px 1fr 46px 130px', gap: 1, fontSize: 12.5, py: 0.25, color: 'text.secondary' }}>
          <code>{word.toLowerCase()}</code>
          <span />
          <Box sx={{ textAlign: 'right' }}>–</Box>
          <Box sx={{ textAlign: 'right', fontSize: 12 }}>a stop word</Box>
        </Box>
      ))}
      {own !== undefined && different.length > 1 && (
        <Box sx={{ fontSize: 12, mt: 0.75, color: 'text.secondary' }}>
          {different.flatMap((_, i) => (own[`w${i}`] === undefined ? [] : [score.format(own[`w${i}`]!)])).join(' + ')} = <b>{found.byWords === undefined ? '' : score.format(found.byWords)}</b>
        </Box>
      )}
      {isFused && <Box sx={{ fontSize: 12, mt: 0.75 }}>{fusionText(byWords, byMeaning, settings)} = <b>{small.format(found.score)}</b></Box>}
      <Button size="small" onClick={() => setSeen(!isSeen)} sx={{ mt: 1, ml: -1, color: 'text.primary' }}>
        {isSeen ? 'Hide what the index sees' : 'What the index sees'}
      </Button>
      {isSeen && <Seen sought={sought} found={found} terms={new Set(different.flatMap(({ term }) => (term === null ? [] : [term])))} />}
    </Paper>
  );
} // prettier-ignore

const markAt = (words: string, at: number): string => (words[at] === '*' || words[at] === '~' ? words[at] : '');
const isMarked = (words: string, at: number): boolean => markAt(words, at) !== '';

/** `1/(60+2) + 2/(60+1)`: what each ranking's place gives. */
function fusionText(byWords: number | undefined, byMeaning: number | undefined, { wordsWeight, vectorWeight }: Sought['settings']): string {
  const part = (place: number | undefined, weight: number): string[] => (place === undefined ? [] : [`${weight}/(60+${place})`]);
  return [...part(byWords, wordsWeight), ...part(byMeaning, vectorWeight)].join(' + ');
}

/** One document, and what each word alone gives it. */
function sharesPipeline({ collection, identity, settings }: Sought, found: Found, words: readonly string[]): string {
  const items = words.map((word, i) => `${relevanceText(settings.paths, settings.language, JSON.stringify(word))} as w${i}`);
  return `from ${collection}\nwhere ${identity} == ${JSON.stringify(found.identity)}\nselect ${items.join(',\n  ')}`;
}

/** How many documents have each word at some of the paths. */
function holdersPipeline({ collection, settings }: Sought, words: readonly string[]): string {
  const paths = settings.paths.length === 1 ? settings.paths[0]!.path : `[${settings.paths.map(({ path }) => path).join(', ')}]`;
  const language = settings.language === null ? '' : `, ${JSON.stringify(settings.language)}`;
  const measures = words.map((word, i) => `n${i} = count() where mentions_any(${paths}, ${JSON.stringify(word)}${language})`);
  const any = `mentions_any(${paths}, ${JSON.stringify(words.join(' '))}${language})`;
  return `from ${collection}\nwhere ${any}\ngroup all measure ${measures.join(',\n  ')}`;
}
