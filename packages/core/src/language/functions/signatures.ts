import { inGroup, type FunctionSignature } from './signature.ts';

const standard = inGroup('standard');
const text = inGroup('text');
const arrays = inGroup('arrays');
const numbers = inGroup('numbers');
const dates = inGroup('dates');
const choice = inGroup('choice and type');
const place = inGroup('place');
const words = inGroup('words and vectors');

/** Every row function: the one table that the parser, the checks, completion, the help and the engine read. */
export const functionSignatures = {
  // RFC 9535, 2.4.4 to 2.4.8
  length: standard(
    'value',
    'number',
    'The number of characters of a text, elements of an array or fields of an object.',
    'length(@.nights)',
  ),
  count: standard('nodes:nodes', 'number', 'How many nodes a path selects.', 'count(@.nights[?@.fee > 40])'),
  value: standard(
    'nodes:nodes',
    'any',
    'The value of the one node that a path selects; nothing where it selects none or several.',
    'value(@..lead)',
  ),
  match: standard(
    'text:text pattern:pattern',
    'condition',
    'Whether the whole text fits an I-Regexp pattern (RFC 9485).',
    'match(@.id, "b-[0-9]+")',
  ),
  search: standard(
    'text:text pattern:pattern',
    'condition',
    'Whether some part of the text fits an I-Regexp pattern (RFC 9485).',
    'search(@.note, "dog|cat")',
  ),

  lower: text('text:text', 'text', 'The text in lower case.', 'lower(@.name)'),
  upper: text('text:text', 'text', 'The text in upper case.', 'upper(@.name)'),
  fold: text('text:text', 'text', 'The text without marks and case, to compare names by (Unicode NFKD).', 'fold(@.name) == "sor hut"'),
  trim: text(
    'text:text characters?:text',
    'text',
    'The text without white space at its ends, or without the characters given.',
    'trim(@.note)',
  ),
  concat: text('text:text parts…:text', 'text', 'The texts joined, one after another.', 'concat(@.id, "/", @.hutId)'),
  split: text('text:text by:text', 'array', 'The parts of a text between the separators.', 'split(@.arrivesOn, "-")'),
  glue: text('array:array by:text', 'text', 'The texts of an array joined, with a separator between.', 'glue(@.fittings, ", ")'),
  starts_with: text('text:text beginning:text', 'condition', 'Whether a text begins with another.', 'starts_with(@.name, "Al")'),
  ends_with: text('text:text ending:text', 'condition', 'Whether a text ends with another.', 'ends_with(@.id, "7")'),
  contains: text('text:text part:text', 'condition', 'Whether a text holds another, letter for letter.', 'contains(@.note, "dog")'),
  replace: text(
    'text:text part:text by:text',
    'text',
    'The text with every occurrence of a part replaced, literally.',
    'replace(@.name, " Hut", "")',
  ),
  substring: text(
    'text:text from:number length?:number',
    'text',
    'A part of a text: from a place counted from 0, so many characters or to the end.',
    'substring(@.arrivesOn, 0, 7)',
  ),

  position_of: text(
    'text:text part:text',
    'number',
    'Where a part first stands in a text, counted from 0; nothing where it does not.',
    'position_of(@.id, "-")',
  ),

  includes: arrays('array:array value', 'condition', 'Whether some element equals a value.', 'includes(@.fittings, "stove")'),
  includes_all: arrays(
    'array:array values:array',
    'condition',
    'Whether each of several values equals some element.',
    'includes_all(@.fittings, ["stove", "radio"])',
  ),
  sum_of: arrays('array:array', 'number', 'The sum of the numbers of an array; of none, nothing.', 'sum_of(@.nights[*].fee)'),
  avg_of: arrays('array:array', 'number', 'The mean of the numbers of an array; of none, nothing.', 'avg_of(@.ratings[*].score)'),
  min_of: arrays('array:array', 'any', 'The least value of an array.', 'min_of(@.party.ages)'),
  max_of: arrays('array:array', 'any', 'The greatest value of an array.', 'max_of(@.nights[*].fee)'),
  median_of: arrays('array:array', 'number', 'The median of the numbers of an array.', 'median_of(@.party.ages)'),
  first_of: arrays('array:array', 'any', 'The first element of an array.', 'first_of(@.nights)'),
  last_of: arrays('array:array', 'any', 'The last element of an array.', 'last_of(@.nights)'),
  distinct_of: arrays(
    'array:array',
    'array',
    'The elements without repeats, in order of first appearance.',
    'distinct_of(@.nights[*].fee)',
  ),
  sorted_of: arrays('array:array', 'array', 'The elements in ascending order.', 'sorted_of(@.party.ages)'),
  each: arrays(
    'array:array expression:each',
    'array',
    'The value of an expression for each element, with @ the element; nothings are left out.',
    'each(@.nights, @.fee * 2)',
  ),
  any: arrays(
    'array:array condition:test',
    'condition',
    'Whether a condition holds for some element, with @ the element.',
    'any(@.nights, @.fee > 40)',
  ),
  every: arrays(
    'array:array condition:test',
    'condition',
    'Whether a condition holds for every element, with @ the element; true for an empty array.',
    'every(@.party.ages, @ >= 18)',
  ),

  abs: numbers('x:number', 'number', 'The number without its sign.', 'abs(@.x)'),
  floor: numbers('x:number', 'number', 'The greatest whole number that is not above x.', 'floor(@.altitudeM / 100)'),
  ceil: numbers('x:number', 'number', 'The least whole number that is not below x.', 'ceil(@.bunks / 4)'),
  round: numbers(
    'x:number digits?:number',
    'number',
    'x rounded to so many digits after the point, halves away from zero.',
    'round(@.fee.night * 1.04, 2)',
  ),
  sqrt: numbers('x:number', 'number', 'The square root; of a negative number, nothing.', 'sqrt(@.bunks)'),
  pow: numbers('x:number exponent:number', 'number', 'x to the power of an exponent.', 'pow(@.bunks, 2)'),
  exp: numbers('x:number', 'number', 'e to the power of x.', 'exp(1)'),
  ln: numbers('x:number', 'number', 'The natural logarithm.', 'ln(@.bunks)'),

  instant: dates('date:date', 'number', 'Milliseconds since 1970 in UTC, so that dates of any offset compare.', 'instant(@.bookedAt)'),
  now: dates('', 'text', 'The time at which the run began, the same for all its rows.', 'now()'),
  date_trunc: dates(
    'unit:unit date:date',
    'text',
    'The beginning of the unit that a date lies in, in its own form and offset.',
    'date_trunc("month", @.arrivesOn)',
  ),
  date_add: dates(
    'date:date n:number unit:unit',
    'text',
    'A date so many units later; months stop at the last day.',
    'date_add(@.arrivesOn, 7, "day")',
  ),
  date_diff: dates(
    'unit:unit from:date to:date',
    'number',
    'Whole units from one date to another, towards zero.',
    'date_diff("day", @.bookedAt, @.arrivesOn)',
  ),
  date_part: dates(
    'part:unit date:date',
    'number',
    'A part of a date in its own offset: a unit, or weekday, 1 to 7 from Monday.',
    'date_part("weekday", @.arrivesOn)',
  ),

  if: choice(
    'condition:condition then else',
    'any',
    'One value where a condition holds, another where not.',
    'if(@.party.size > 6, "large", "small")',
  ),
  coalesce: choice('value…', 'any', 'The first value that is neither missing nor null.', 'coalesce(@.note, "")'),
  or_null: choice('value', 'any', 'A value, or null where it is missing.', 'or_null(@.note)'),
  exists: choice('nodes:nodes', 'condition', 'Whether a path selects anything.', 'exists(@.guide)'),
  type_of: choice(
    'value',
    'text',
    'The type of a value: "null", "boolean", "number", "text", "array", "object" or "missing".',
    'type_of(@.bunks) == "text"',
  ),
  number: choice('value', 'number', 'A value as a number; nothing where it does not read as one.', 'number(@.bunks)'),
  text: choice('value', 'text', 'A value as text; arrays and objects as JSON.', 'text(@.bunks)'),
  boolean: choice('value', 'boolean', 'A value as true or false: "true", "false", 1 and 0 are understood.', 'boolean(@.guide)'),

  distance: place(
    'from:place to:place',
    'number',
    'Metres between two places on a sphere of WGS 84’s mean radius.',
    'distance(@.position, [7.66, 45.98])',
  ),

  mentions_any: words(
    'paths:paths words:constant language?:language',
    'condition',
    'Whether texts have some of the words: `bridg*` is a beginning, `brige~` may differ by a letter.',
    'mentions_any(@.text, "bridge ford", "english")',
  ),
  mentions_all: words(
    'paths:paths words:constant language?:language',
    'condition',
    'Whether texts have each of the words, wherever they stand.',
    'mentions_all([@.headline, @.text], "broken bridge", "english")',
  ),
  mentions_phrase: words(
    'paths:paths words:constant language?:language',
    'condition',
    'Whether a text has the words one after another; a stop word stands for any one word.',
    'mentions_phrase(@.text, "the bridge is out", "english")',
  ),
  relevance: words(
    'paths:paths words:constant language?:language weights?:constant',
    'number',
    'How well texts answer the words (BM25); nothing where they have none of them. Weights are one for each path.',
    'relevance([@.headline, @.text], "bridge", "english", [2, 1])',
  ),
  excerpt: words(
    'paths:paths words:constant language?:language',
    'text',
    'The passage of about 30 words that has most of the words, those between ⟦ ⟧.',
    'excerpt(@.text, "bridge", "english")',
  ),
  cosine_similarity: words(
    'a b',
    'number',
    'The cosine of the angle between two vectors of the same length.',
    'cosine_similarity(@.textVector, vector_of("ibex"))',
  ),
  dot_product: words('a b', 'number', 'The dot product of two vectors of the same length.', 'dot_product(@.textVector, vector_of("ibex"))'),
  euclidean_distance: words(
    'a b',
    'number',
    'The distance between two vectors of the same length.',
    'euclidean_distance(@.textVector, vector_of("ibex"))',
  ),
  vector_of: words(
    'text:text',
    'array',
    '64 numbers for the meaning of an English text, of length 1: a stand-in for vectors of your own.',
    'vector_of("a bridge is gone")',
  ),
} satisfies Record<string, FunctionSignature>;

export type FunctionName = keyof typeof functionSignatures;

export function signatureOf(name: string): FunctionSignature | undefined {
  return Object.hasOwn(functionSignatures, name) ? functionSignatures[name as FunctionName] : undefined;
}

export function isConditionCall(name: string): boolean {
  return signatureOf(name)?.result === 'condition';
}
