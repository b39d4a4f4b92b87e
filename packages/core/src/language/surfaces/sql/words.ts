import { reserved } from './reserved.ts';
import { notationWords } from '../notation/words.ts';
import { isPlainlyWritten } from '../notation/print.ts';
import type { Words } from '../../words.ts';

/** A name as it stands in SQL; an odd one, or one that is a word of the language, in quotes. */
export const sqlName = (name: string): string =>
  isPlainlyWritten(name) && !reserved.has(name.toUpperCase()) ? name : `"${name.replace(/"/g, '""')}"`;

/** How what is said of a question in SQL calls its parts: fields as columns; conditions as they run, in the notation. */
export const sqlWords: Words = {
  ...notationWords,
  name: (names) => names.map(sqlName).join('.'),
  field: (names) => names.map(sqlName).join('.'),
};
