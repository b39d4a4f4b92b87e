import editDistance from 'damerau-levenshtein';

/**
 * The known word nearest to an unknown one, if one is near enough to have been meant: at most a third of
 * its letters differ (Damerau–Levenshtein distance, adjacent transpositions counting once).
 */
export function nearest(word: string, known: Iterable<string>): string | undefined {
  let best: string | undefined;
  let bestDistance = Math.max(1, Math.floor(word.length / 3)) + 1;
  for (const candidate of known) {
    if (Math.abs(candidate.length - word.length) >= bestDistance) continue;
    const { steps } = editDistance(word.toLowerCase(), candidate.toLowerCase());
    if (steps < bestDistance) {
      best = candidate;
      bestDistance = steps;
    }
  }
  return best;
}
