/** Words with which a stage goes on after its first: a line that begins with one belongs to the line above. */
export const continuingWords: ReadonlySet<string> = new Set([
  'measure',
  'on',
  'as',
  'partition',
  'keep',
  'weight',
  'depth',
  'effort',
  'seed',
  'position',
  'nulls',
  'asc',
  'desc',
]);

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
