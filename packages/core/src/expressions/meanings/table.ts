import type { FunctionName } from '../../language/functions/signatures.ts';
import * as arrays from './arrays.ts';
import * as choice from './choice.ts';
import * as dates from './dates.ts';
import type { Context, Meaning } from './meaning.ts';
import { finite, round } from './numbers.ts';
import { distance } from './place.ts';
import * as texts from './text.ts';
import { cosineSimilarity, dotProduct, euclideanDistance } from '../../words/vectors.ts';
import { vectorOf } from '../../words/vectorOf.ts';
import { fold } from '../../words/fold.ts';

/** Functions whose arguments are not all plain values; the compiler has a form of its own for each. */
export const specialNames = [
  'mentions_any',
  'mentions_all',
  'mentions_phrase',
  'relevance',
  'excerpt',
  'count',
  'value',
  'match',
  'search',
  'each',
  'any',
  'every',
  'if',
  'coalesce',
  'or_null',
  'exists',
] as const;
export type SpecialName = (typeof specialNames)[number];

/** What every other function means. A name without a meaning does not compile. */
export const meanings: Record<Exclude<FunctionName, SpecialName>, Meaning> = {
  length: texts.length,
  lower: (text: string) => text.toLowerCase(),
  upper: (text: string) => text.toUpperCase(),
  fold,
  trim: texts.trim,
  concat: texts.concat,
  split: texts.split,
  glue: texts.glue,
  starts_with: (text: string, beginning: string) => text.startsWith(beginning),
  ends_with: (text: string, ending: string) => text.endsWith(ending),
  contains: (text: string, part: string) => text.includes(part),
  replace: texts.replace,
  substring: texts.substring,
  position_of: texts.positionOf,

  includes: arrays.includes,
  includes_all: arrays.includesAll,
  sum_of: arrays.sumOf,
  avg_of: arrays.avgOf,
  min_of: arrays.minOf,
  max_of: arrays.maxOf,
  median_of: arrays.medianOf,
  first_of: (array) => array[0],
  last_of: (array) => array[array.length - 1],
  distinct_of: arrays.distinctOf,
  sorted_of: arrays.sortedOf,

  abs: Math.abs,
  floor: Math.floor,
  ceil: Math.ceil,
  round,
  sqrt: (x: number) => finite(Math.sqrt(x)),
  pow: (x: number, exponent: number) => finite(x ** exponent),
  exp: (x: number) => finite(Math.exp(x)),
  ln: (x: number) => finite(Math.log(x)),

  instant: dates.instant,
  now: (context: Context) => context.now,
  date_trunc: dates.dateTrunc,
  date_add: dates.dateAdd,
  date_diff: dates.dateDiff,
  date_part: dates.datePart,

  type_of: choice.typeOf,
  number: choice.toNumber,
  text: choice.toText,
  boolean: choice.toBoolean,

  distance,

  cosine_similarity: cosineSimilarity,
  dot_product: dotProduct,
  euclidean_distance: euclideanDistance,
  vector_of: vectorOf,
};
