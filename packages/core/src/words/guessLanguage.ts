import { languageNames, type LanguageName } from './languageNames.ts';
import { languageOf } from './languages.ts';

/** A language has so large a share of stop words at least; and texts so many words that a share says something. */
const leastShare = 0.2;
const leastWords = 20;

/**
 * The language that some texts are in, by its stop words (Cavnar and Trenkle 1994 compare the like by letters); undefined where they are
 * too few, or those of no language or of two stand out.
 */
export function guessLanguage(texts: readonly string[]): LanguageName | undefined {
  const words = texts.flatMap((text) => text.toLowerCase().match(/[\p{L}\p{M}']+/gu) ?? []);
  if (words.length < leastWords) return undefined;
  const counts = languageNames.map((name) => {
    const { isStopWord } = languageOf(name);
    return { name, count: words.reduce((sum, word) => sum + Number(isStopWord(word)), 0) };
  });
  const [first, second] = counts.sort((a, b) => b.count - a.count);
  const isClear = first!.count / words.length >= leastShare && first!.count > (second?.count ?? 0);
  return isClear ? first!.name : undefined;
}
