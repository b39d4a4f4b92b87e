/** From so many letters on, a word may differ by two. */
const longWord = 8;

/**
 * Whether a term differs from a word by at most one letter put in, left out or exchanged, by two from eight letters on (Levenshtein 1966):
 * the rows of the table are worked out within that band alone.
 */
export function isNear(word: string): (term: string) => boolean {
  const asked = Array.from(word);
  const most = asked.length >= longWord ? 2 : 1;
  let row = new Array<number>(asked.length + 1);
  let next = new Array<number>(asked.length + 1);
  return (term) => {
    if (term === word) return true;
    if (Math.abs(term.length - word.length) > most * 2) return false;
    const given = Array.from(term);
    if (Math.abs(given.length - asked.length) > most) return false;
    for (let i = 0; i <= asked.length; i++) row[i] = i;
    for (let j = 1; j <= given.length; j++) {
      next[0] = j;
      let least = j;
      for (let i = 1; i <= asked.length; i++) {
        const same = asked[i - 1] === given[j - 1] ? 0 : 1;
        next[i] = Math.min(row[i]! + 1, next[i - 1]! + 1, row[i - 1]! + same);
        if (next[i]! < least) least = next[i]!;
      }
      if (least > most) return false;
      [row, next] = [next, row];
    }
    return row[asked.length]! <= most;
  };
}
