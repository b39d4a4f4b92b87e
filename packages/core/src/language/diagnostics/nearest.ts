/**
 * The known word nearest to an unknown one, if one is near enough to have been meant: at most a third of
 * its letters differ (Damerau–Levenshtein distance, adjacent transpositions counting once).
 */
export function nearest(word: string, known: Iterable<string>): string | undefined {
  let best: string | undefined;
  let bestDistance = Math.max(1, Math.floor(word.length / 3)) + 1;
  for (const candidate of known) {
    if (Math.abs(candidate.length - word.length) >= bestDistance) continue;
    const distance = editDistance(word.toLowerCase(), candidate.toLowerCase());
    if (distance < bestDistance) {
      best = candidate;
      bestDistance = distance;
    }
  }
  return best;
}

function editDistance(a: string, b: string): number {
  let beforeLast: number[] = [];
  let last = Array.from({ length: b.length + 1 }, (_, j) => j);
  for (let i = 1; i <= a.length; i++) {
    const row = [i];
    for (let j = 1; j <= b.length; j++) {
      const changed = a[i - 1] === b[j - 1] ? 0 : 1;
      row[j] = Math.min(last[j] + 1, row[j - 1] + 1, last[j - 1] + changed);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) {
        row[j] = Math.min(row[j], beforeLast[j - 2] + 1);
      }
    }
    beforeLast = last;
    last = row;
  }
  return last[b.length];
}
