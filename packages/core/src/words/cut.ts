/** A word and where it begins, in UTF-16 units. */
export type VisitWord = (word: string, from: number) => void;

const segmenter = new Intl.Segmenter('und', { granularity: 'word' });
/** The segmenter takes time that goes with the square of a text's length, so that long ones go to it in pieces. */
const pieceUnits = 2_000;

/** Cuts a text into its words by UAX #29, as they stand in it. */
export function eachWord(text: string, visit: VisitWord): void {
  if (isPlainlyLatin(text)) latinWords(text, visit);
  else for (let from = 0; from < text.length;) from = segmentPiece(text, from, visit);
}

/** Cuts the piece that begins at a place; gives where the next one does. */
function segmentPiece(text: string, from: number, visit: VisitWord): number {
  const to = endOfPiece(text, from);
  for (const { segment, index, isWordLike } of segmenter.segment(text.slice(from, to)))
    if (isWordLike === true) visit(segment, from + index);
  return to;
}

/** After white space, which no word goes across; a piece without any ends where it must, between two code points. */
function endOfPiece(text: string, from: number): number {
  const most = from + pieceUnits;
  if (most >= text.length) return text.length;
  for (let to = most; to > from; to--) if (/\s/.test(text[to - 1]!)) return to;
  const next = text.slice(most).search(/\s/);
  // A script without spaces is cut by a dictionary, which looks no further than a few words.
  if (next < 0 || next > pieceUnits) return text.codePointAt(most - 1)! > 0xffff ? most - 1 : most;
  return most + next + 1;
}

/*
 * Texts of ASCII and Latin letters with marks are cut without the segmenter, which takes twenty times as long. `cut.test.ts` holds the two
 * against each other. The classes are those of UAX #29, table 3.
 */
const other = 0;
const letter = 1;
const digit = 2;
const underscore = 3;
const between = { letters: 4, numbers: 5, both: 6 } as const;
const unknown = 9;

const classes = new Uint8Array(0x250).fill(unknown);
for (let unit = 0x20; unit < 0x7f; unit++) classes[unit] = other;
for (const unit of [9, 10, 13, 0xa0]) classes[unit] = other;
for (let unit = 0; unit < 0x250; unit++) {
  const character = String.fromCharCode(unit);
  if (/[A-Za-z\u00c0-\u024f]/.test(character) && unit !== 0xd7 && unit !== 0xf7) classes[unit] = letter;
  else if (/[0-9]/.test(character)) classes[unit] = digit;
}
classes[0x5f] = underscore;
classes[0x27] = classes[0x2e] = between.both;
classes[0x2c] = classes[0x3b] = between.numbers;
// Whether a colon stands inside words differs from one version of Unicode to the next.
classes[0x3a] = [...segmenter.segment('a:b')].length === 1 ? between.letters : other;

const rightQuote = 0x2019;
const classAt = (text: string, at: number): number => {
  const unit = text.charCodeAt(at);
  if (unit < 0x250) return classes[unit]!;
  if (unit === rightQuote) return between.both;
  // Dashes and quotation marks of running text.
  return (unit >= 0x2010 && unit <= 0x2015) || unit === 0x201c || unit === 0x201d || unit === 0x2018 || unit === 0x2026 ? other : unknown;
};

function isPlainlyLatin(text: string): boolean {
  for (let at = 0; at < text.length; at++) if (classAt(text, at) === unknown || isOddQuote(text, at)) return false;
  return true;
}

/** U+2018 and U+2024 to U+2026 are between letters for some versions. */
function isOddQuote(text: string, at: number): boolean {
  const unit = text.charCodeAt(at);
  return unit === 0x2018 || unit === 0x2026;
}

function latinWords(text: string, visit: VisitWord): void {
  const { length } = text;
  let at = 0;
  while (at < length) {
    const first = classAt(text, at);
    if (first !== letter && first !== digit && first !== underscore) {
      at++;
      continue;
    }
    const from = at;
    let isWord = first !== underscore;
    let before = first;
    for (at++; at < length;) {
      const here = classAt(text, at);
      if (here === letter || here === digit || here === underscore) {
        isWord ||= here !== underscore;
        before = here;
        at++;
        continue;
      }
      const joins = here === between.both || (before === letter && here === between.letters) || (before === digit && here === between.numbers); // prettier-ignore
      if (!joins || before === underscore || at + 1 >= length || classAt(text, at + 1) !== before) break;
      at += 2;
    }
    // Several underscores are a word for the segmenter, and one is none.
    if (isWord || at - from > 1) visit(text.slice(from, at), from);
  }
}
