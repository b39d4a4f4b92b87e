import { LRUCache } from 'lru-cache';
import type { Pipeline } from '../pipeline.ts';
import type { Surface } from './surface.ts';

const keptTexts = 64;
/** Letters, of all of them together. */
const keptLetters = 1_000_000;

/** A face that keeps what it has read last: one question's sources are looked up, it is checked and planned, each from its text. */
export function readingOnce(surface: Surface): Surface {
  const read = new LRUCache<string, Pipeline>({ max: keptTexts, maxSize: keptLetters, sizeCalculation: ({ text }) => text.length + 1 });
  return {
    ...surface,
    parse: (text, firstId) => {
      // What is read into another text, whose nodes come first, is kept with that one.
      if (firstId !== undefined) return surface.parse(text, firstId);
      const known = read.get(text);
      if (known !== undefined) return known;
      const pipeline = surface.parse(text);
      read.set(text, pipeline);
      return pipeline;
    },
  };
}
