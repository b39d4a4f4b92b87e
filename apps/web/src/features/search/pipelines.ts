import type { SearchSettings } from './settings.ts';

/** How many places of each ranking are looked at beside the fused one, to draw its lines. */
export const placesShown = 100;

/** The pipelines that a search is: all that the screen ever runs. Words are the parameter `words`. */
export interface SearchPipelines {
  readonly fused: string;
  readonly byWords: string | undefined;
  readonly byMeaning: string | undefined;
  readonly title: string | undefined;
}

const pathList = (paths: SearchSettings['paths']): string =>
  paths.length === 1 ? paths[0]!.path : `[${paths.map(({ path }) => path).join(', ')}]`;
const languageText = (language: SearchSettings['language']): string => (language === null ? '' : `, ${JSON.stringify(language)}`);

/** Relevance of some paths; weights stand where a language does too, since they come after it. */
export function relevanceText(paths: SearchSettings['paths'], language: SearchSettings['language'], words = ':words'): string {
  const weights =
    paths.some(({ weight }) => weight !== 1) && language !== null ? `, [${paths.map(({ weight }) => weight).join(', ')}]` : '';
  return `relevance(${pathList(paths)}, ${words}${languageText(language)}${weights})`;
}

/** @param texts what there is to show of a document where no words are asked for: its texts, the longest last */
export function pipelinesOf(collection: string, identity: string, settings: SearchSettings, texts: readonly string[] = []): SearchPipelines {
  const { paths, language, vector, where, best, wordsWeight, vectorWeight, effort } = settings;
  const head = `from ${collection}${where.trim() === '' ? '' : `\nwhere ${where.trim()}`}`;
  const words = paths.length === 0 ? undefined : relevanceText(paths, language);
  const meaning = vector === null ? undefined : `cosine_similarity(${vector}, vector_of(:words))`;
  const weighed = (score: string, weight: number): string => (words === undefined || meaning === undefined || weight === 1 ? score : `${score} weight ${weight}`);
  const scores = [...(words === undefined ? [] : [weighed(words, wordsWeight)]), ...(meaning === undefined ? [] : [weighed(meaning, vectorWeight)])];
  const spared = effort === null || vector === null ? '' : ` effort ${Math.max(effort, best)}`;
  // Where meaning alone is asked for, texts are shown all the same.
  const shownTexts = paths.length > 0 ? paths.map(({ path }) => path) : texts.slice(-2);
  const title = shownTexts[0];
  const shown = [
    `${identity} as identity`,
    '@.score as score',
    ...(title === undefined ? [] : [`${title} as title`]),
    ...(paths.length === 0 ? [] : [`excerpt(${pathList(paths)}, :words${languageText(language)}) as passage`]),
    ...(title === undefined ? [] : [`${shownTexts.at(-1)!} as beginning`]),
    ...(words === undefined ? [] : [`${words} as byWords`]),
    ...(meaning === undefined ? [] : [`${meaning} as byMeaning`]),
  ];
  const alone = (score: string | undefined): string | undefined => score && `${head}\nbest ${placesShown} by ${score}\nselect ${identity} as identity`;
  return {
    fused: `${head}\nbest ${best} by ${scores.join(', ')} as score${spared}\nselect ${shown.join(',\n  ')}`,
    byWords: words && meaning && alone(words),
    byMeaning: words && meaning && alone(meaning),
    title,
  };
} // prettier-ignore
