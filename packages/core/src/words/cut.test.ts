import fc from 'fast-check';
import { eachWord } from './cut.ts';

const segmenter = new Intl.Segmenter('und', { granularity: 'word' });
const bySegmenter = (text: string) =>
  [...segmenter.segment(text)].flatMap(({ segment, index, isWordLike }) => (isWordLike === true ? [[segment, index]] : []));
function cut(text: string): [string, number][] {
  const words: [string, number][] = [];
  eachWord(text, (word, from) => words.push([word, from]));
  return words;
}

const latin = fc.string({
  unit: fc.oneof(
    fc.constantFrom(...'abYZ09_.,;:\'’-–—“”"/()!?* \n\t', 'é', 'ß', 'ø', 'Ł', 'ÿ', 'ı', '·', '×', '÷', 'ª', 'µ', '\u00ad', '‘', '…', '\u0301'),
    fc.string({ minLength: 1, maxLength: 1 }),
  ),
  maxLength: 30,
}); // prettier-ignore

test('Latin texts are cut as the segmenter cuts them', () => {
  fc.assert(
    fc.property(latin, (text) => expect(cut(text)).toEqual(bySegmenter(text))),
    { numRuns: 4_000 },
  );
});

test('every character of the Latin part stands among letters, digits and marks as the segmenter has it', () => {
  const faults: string[] = [];
  for (let unit = 0; unit < 0x2040; unit++) {
    if (unit === 0x250) unit = 0x2000;
    const character = String.fromCharCode(unit);
    for (const text of [character, `a${character}b`, `1${character}2`, `a${character}1`, `_${character}b`, `a${character}${character}b`, `a${character}.b`])
      if (JSON.stringify(cut(text)) !== JSON.stringify(bySegmenter(text))) faults.push(`${unit.toString(16)} ${text}`);
  }
  expect(faults).toEqual([]);
}); // prettier-ignore

test('scripts without spaces are cut by the dictionary, and long texts in pieces', () => {
  expect(cut('สวัสดีชาวโลก').map(([word]) => word).join('|')).toBe('สวัสดี|ชาว|โลก'); // prettier-ignore
  expect(cut('我喜欢山').map(([word]) => word).join('')).toBe('我喜欢山'); // prettier-ignore
  expect(cut('a 😀 b').map(([word]) => word)).toEqual(['a', 'b']);
  const long = 'слово и дело '.repeat(40_000);
  const started = performance.now();
  expect(cut(long)).toHaveLength(120_000);
  expect(performance.now() - started).toBeLessThan(20_000);
  for (const [word, from] of cut('мост через реку '.repeat(300))) expect('мост через реку '.repeat(300).slice(from, from + word.length)).toBe(word); // prettier-ignore
});
