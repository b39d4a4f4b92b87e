/** Words that mean something where a value may stand, and so cannot name a partner. */
export const reservedWords: ReadonlySet<string> = new Set([
  'true',
  'false',
  'null',
  'in',
  'as',
  'on',
  'asc',
  'desc',
  'nulls',
  'off',
  'measure',
  'where',
]);
