import fc from 'fast-check';
import { Engine } from './engine.ts';
import { fieldTree } from '../shape/fieldTree.ts';
import type { Json } from '../values/json.ts';
import { completeSql, formatSql, outlineSql, printSql, translateSql, usualSurface, withSqlSource } from '../language/index.ts';

const huts: Record<string, Json>[] = [
  { id: 1, name: 'Alder', region: 'north', bunks: 8, height: 2100.5, tags: ['stove', 'radio'], open: true },
  { id: 2, name: 'Birch', region: 'south', bunks: '12', height: 1800, tags: [], open: false },
  { id: 3, name: 'Cedar', region: null, bunks: 4, tags: ['stove'] },
  { id: 4, name: 'Sör % Hut', bunks: 4, height: 2100.5, 'odd "name"': { 'x.y': 7 }, __proto__x: 1 },
];
const bookings: Record<string, Json>[] = [
  { id: 'a', hutId: 1, status: 'late', party: { size: 3 }, nights: [{ fee: 10, extras: [{ k: 'x' }, { k: 'y' }] }, { fee: 20 }], on: '2026-02-03T10:00:00Z' },
  { id: 'b', hutId: 1, status: 'early', party: { size: 5 }, nights: [], on: '2026-02-14' },
  { id: 'c', hutId: 2, status: null, party: { size: 2 }, nights: [{ fee: 5 }], on: 'never' },
  { id: 'd', hutId: null, status: 'late', nights: [{ fee: 1 }, { fee: 2 }] },
]; // prettier-ignore

function engineOf(): Engine {
  const engine = new Engine({ pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-03-01T00:00:00Z') });
  for (const [name, documents] of Object.entries({ huts, bookings })) {
    const { store } = engine.define(name, '@.id');
    documents.forEach((one, i) => store.put(i, one));
  }
  return engine;
}
const engine = engineOf();

async function known() {
  const trees = new Map<string, ReturnType<typeof fieldTree>>();
  for (const name of ['huts', 'bookings']) trees.set(name, fieldTree(await engine.collections.get(name)!.shape(() => Promise.resolve())));
  return { collections: ['huts', 'bookings'], shapeOf: (name: string) => trees.get(name), identityOf: () => ['id'] };
}
async function ask(sql: string, parameters: Record<string, Json> = {}): Promise<Json[]> {
  const { pipeline, diagnostics } = translateSql(sql, await known());
  if (pipeline === undefined) throw new Error(diagnostics[0]!.message);
  const answer = await engine.query({ pipeline, parameters });
  if (!answer.ok) throw new Error(answer.problem.message);
  return [...answer.value.documents];
}
/** The values of the one column, or whole rows. */
const column = async (sql: string, parameters?: Record<string, Json>) =>
  (await ask(sql, parameters)).map((row) => Object.values(row as object)[0] as Json);

test.each<[string, Json[]]>([
  // NULL in NOT IN, in a list and in a subquery
  ["SELECT id FROM huts WHERE region NOT IN ('north', NULL)", []],
  ["SELECT id FROM huts WHERE region NOT IN ('north')", [2]],
  ["SELECT id FROM huts WHERE region IN ('north', NULL)", [1]],
  ['SELECT id FROM huts WHERE id NOT IN (SELECT hutId FROM bookings WHERE hutId IS NOT NULL)', [3, 4]],
  // NULL is in no set, and not in none either, unless that is empty
  ["SELECT id FROM bookings WHERE hutId NOT IN (SELECT id FROM huts WHERE name = 'Alder')", ['c']],
  ["SELECT id FROM bookings WHERE hutId NOT IN (SELECT id FROM huts WHERE name = 'nobody')", ['a', 'b', 'c', 'd']],
  // <> and NOT over NULL
  ["SELECT id FROM huts WHERE region <> 'north'", [2]],
  ["SELECT id FROM huts WHERE NOT (region = 'north')", [2]],
  ["SELECT id FROM huts WHERE NOT (region = 'north' OR id = 2)", []],
  ["SELECT id FROM huts WHERE region IS DISTINCT FROM 'north'", [2, 3, 4]],
  ["SELECT id FROM huts WHERE (region = 'north') IS UNKNOWN", [3, 4]],
  ['SELECT id FROM huts WHERE region IS NULL', [3, 4]],
  ['SELECT id FROM huts WHERE open', [1]],
  ['SELECT id FROM huts WHERE NOT open', [2]],
  ['SELECT id FROM huts WHERE open IS NOT TRUE', [2, 3, 4]],
  // Aggregates
  ['SELECT COUNT(*) FROM huts', [4]],
  ['SELECT COUNT(region) FROM huts', [2]],
  ['SELECT COUNT(DISTINCT height) FROM huts', [2]],
  ['SELECT SUM(height) FROM huts WHERE id > 9', [null]],
  ['SELECT COUNT(*) FROM huts WHERE id > 9', [0]],
  ['SELECT AVG(bunks) FROM huts', [16 / 3]],
  ['SELECT JSON_ARRAYAGG(name) FROM huts WHERE id > 9', [null]],
  ['SELECT JSON_ARRAYAGG(name ORDER BY height DESC NULLS LAST, name) FROM huts', [['Alder', 'Sör % Hut', 'Birch', 'Cedar']]],
  ['SELECT PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY height) FROM huts', [2100.5]],
  ['SELECT STDDEV_SAMP(height) FROM huts WHERE id = 1', [null]],
  ['SELECT COUNT(*) FILTER (WHERE height > 2000) FROM huts', [2]],
  ['SELECT 1 AS one FROM huts HAVING COUNT(*) > 3', [1]],
  ['SELECT COUNT(*) FROM huts HAVING COUNT(*) > 4', []],
  // Groups: missing and null are one; by an alias, a place, an expression
  ['SELECT region, COUNT(*) AS n FROM huts GROUP BY region HAVING COUNT(*) > 1', [null]],
  ['SELECT UPPER(region) AS region, COUNT(*) FROM huts WHERE id < 3 GROUP BY region ORDER BY 1', ['NORTH', 'SOUTH']],
  // A column of the table comes before an alias of its name.
  ['SELECT COUNT(*) AS height FROM huts WHERE id < 3 GROUP BY height ORDER BY 1', [1, 1]],
  ["SELECT CASE WHEN height > 2000 THEN 'high' ELSE 'low' END AS kind FROM huts GROUP BY kind ORDER BY kind", ['high', 'low']],
  ['SELECT party FROM bookings WHERE id = \'a\' GROUP BY party', [{ size: 3 }]],
  ['SELECT party.size FROM bookings WHERE id = \'a\' GROUP BY party', [3]],
  // LIKE
  ["SELECT id FROM huts WHERE name LIKE '%r%'", [1, 2, 3, 4]],
  ["SELECT id FROM huts WHERE name LIKE 'a%'", []],
  ["SELECT id FROM huts WHERE name LIKE '_lder'", [1]],
  ["SELECT id FROM huts WHERE name LIKE '%!%%' ESCAPE '!'", [4]],
  ["SELECT id FROM huts WHERE name NOT LIKE '%e%'", [4, 2].sort()],
  ["SELECT id FROM huts WHERE bunks LIKE '1%'", [2]],
  // Order: an alias, a place, an expression that is not selected; nulls last
  ['SELECT name AS n FROM huts ORDER BY n DESC LIMIT 2', ['Sör % Hut', 'Cedar']],
  ['SELECT id FROM huts ORDER BY height, id', [2, 1, 4, 3]],
  ['SELECT id FROM huts ORDER BY height DESC NULLS FIRST, 1', [3, 1, 4, 2]],
  ['SELECT id FROM huts ORDER BY id OFFSET 1 ROWS FETCH FIRST 2 ROWS ONLY', [2, 3]],
  ['SELECT DISTINCT height FROM huts ORDER BY height DESC', [2100.5, 1800, null]],
  // Joins
  ['SELECT b.id FROM bookings b LEFT JOIN huts h ON h.id = b.hutId WHERE h.id IS NULL', ['d']],
  ["SELECT b.id FROM bookings b LEFT JOIN huts h ON h.id = b.hutId AND h.name = 'Birch' WHERE h.name = 'Birch'", ['c']],
  ['SELECT b.id FROM bookings b, huts h WHERE h.id = b.hutId AND h.bunks = 8 ORDER BY b.id', ['a', 'b']],
  ['SELECT COUNT(*) FROM huts a CROSS JOIN huts b', [16]],
  ['SELECT COUNT(*) FROM huts a JOIN huts b USING (height)', [5]],
  ['SELECT name FROM bookings b JOIN huts h ON h.id = b.hutId WHERE b.id = \'a\'', ['Alder']],
  ['WITH n AS (SELECT hutId, COUNT(*) AS c FROM bookings GROUP BY hutId) SELECT h.name FROM huts h JOIN n ON n.hutId = h.id WHERE n.c = 2', ['Alder']],
  ['WITH a AS (SELECT id FROM huts WHERE id < 3) SELECT x.id FROM a x JOIN a y ON x.id = y.id ORDER BY x.id', [1, 2]],
  ['SELECT s.n FROM (SELECT COUNT(*) AS n FROM huts) AS s', [4]],
  // Elements
  ['SELECT n.fee FROM bookings b CROSS JOIN UNNEST(b.nights) AS n ORDER BY n.fee', [1, 2, 5, 10, 20]],
  ['SELECT COUNT(*) FROM bookings b LEFT JOIN UNNEST(b.nights) AS n ON TRUE', [6]],
  ['SELECT p FROM bookings b CROSS JOIN UNNEST(b.nights) WITH ORDINALITY AS a(n, p) WHERE n.fee = 20', [2]],
  ['SELECT nights[1].fee FROM bookings WHERE id = \'a\'', [20]],
  ["SELECT t.k FROM bookings b, JSON_TABLE(b.nights, '$[*]' COLUMNS (fee NUMERIC PATH '$.fee', NESTED PATH '$.extras[*]' COLUMNS (k TEXT PATH '$.k'))) AS t WHERE b.id = 'a'", ['x', 'y', null]],
  ["SELECT t.missing FROM bookings b, JSON_TABLE(b.party, '$' COLUMNS (missing TEXT PATH '$.none')) AS t", [null, null, null]],
  // JSON
  ["SELECT JSON_OBJECT('n': name, 'r': region) FROM huts WHERE id = 3", [{ n: 'Cedar', r: null }]],
  ["SELECT JSON_OBJECT('n': name, 'r': region ABSENT ON NULL) FROM huts WHERE id = 3", [{ n: 'Cedar' }]],
  ['SELECT JSON_ARRAY(name, region) FROM huts WHERE id = 3', [['Cedar']]],
  ["SELECT JSON_VALUE(party, '$.size') FROM bookings WHERE id = 'a'", [3]],
  ["SELECT JSON_VALUE(nights, '$[0]') FROM bookings WHERE id = 'a'", [null]],
  ["SELECT JSON_QUERY(nights, '$[1]') FROM bookings WHERE id = 'a'", [{ fee: 20 }]],
  ["SELECT id FROM bookings WHERE JSON_EXISTS(nights, '$[?@.fee > 15]')", ['a']],
  // Expressions
  ['SELECT 1 / 2 FROM huts WHERE id = 1', [0.5]],
  ['SELECT bunks / 0 FROM huts WHERE id = 1', [null]],
  ["SELECT CAST(bunks AS INTEGER) FROM huts WHERE id = 2", [12]],
  ["SELECT CAST('x' AS INTEGER) FROM huts WHERE id = 2", [null]],
  ['SELECT CAST(-1.9 AS INTEGER) FROM huts WHERE id = 2', [-1]],
  ['SELECT CAST(height AS TEXT) FROM huts WHERE id = 1', ['2100.5']],
  ["SELECT id FROM bookings WHERE CAST(\"on\" AS DATE) = '2026-02-14'", ['b']],
  ['SELECT EXTRACT(MONTH FROM "on") FROM bookings WHERE id = \'a\'', [2]],
  ["SELECT SUBSTRING(name FROM 2 FOR 3) FROM huts WHERE id = 1", ['lde']],
  ["SELECT SUBSTRING(name FROM -1 FOR 4) FROM huts WHERE id = 1", ['Al']],
  ["SELECT POSITION('d' IN name) FROM huts ORDER BY id", [3, 0, 3, 0]],
  ["SELECT TRIM('  a b ') FROM huts WHERE id = 1", ['a b']],
  ['SELECT CHAR_LENGTH(tags) FROM huts WHERE id = 1', [null]],
  ["SELECT COALESCE(region, 'none') FROM huts ORDER BY id", ['north', 'south', 'none', 'none']],
  ['SELECT NULLIF(bunks, 4) FROM huts ORDER BY id', [8, '12', null, null]],
  ["SELECT name || '!' FROM huts WHERE id = 1", ['Alder!']],
  // Text that looks like a number is text
  ['SELECT id FROM huts WHERE bunks = 12', []],
  ["SELECT id FROM huts WHERE bunks = '12'", [2]],
  ['SELECT id FROM huts WHERE bunks > 5', [1]],
  // Odd names
  ['SELECT "odd ""name"""."x.y" FROM huts WHERE id = 4', [7]],
  ['SELECT __proto__ FROM huts WHERE id = 4', [null]],
  ['SELECT huts.id FROM huts WHERE huts.id = 1', [1]],
  // Ranks
  ['SELECT name FROM (SELECT name, RANK() OVER (ORDER BY height DESC) AS r FROM huts) AS s WHERE r = 1', ['Alder', 'Sör % Hut']],
  ['SELECT ROW_NUMBER() OVER (PARTITION BY b.hutId ORDER BY b.id DESC) FROM bookings b JOIN huts h ON h.id = b.hutId WHERE b.id = \'a\'', [1]],
])('a question means what it means in SQL (%#)', async (sql, expected) => {
  expect({ sql, column: await column(sql) }).toEqual({ sql, column: expected });
}); // prettier-ignore

test('SELECT * of one table gives whole documents, of a join each side under its alias, and names come as they should', async () => {
  expect(await ask('SELECT * FROM huts WHERE id = 3')).toEqual([huts[2]]);
  expect(await ask("SELECT * FROM bookings b JOIN huts h ON h.id = b.hutId WHERE b.id = 'c'")).toEqual([{ b: bookings[2], h: huts[1] }]);
  expect(await ask("SELECT *, bunks * 2 AS twice FROM huts WHERE id = 3")).toEqual([{ ...huts[2], twice: 8 }]); // prettier-ignore
  expect(await ask('SELECT name, id + 1, id, name FROM huts WHERE id = 1')).toEqual([
    { name: 'Alder', column2: 2, id: 1, name_2: 'Alder' },
  ]);
  expect(await column('SELECT id FROM huts WHERE bunks > :least', { least: 5 })).toEqual([1]);
  expect(await column('SELECT id FROM huts WHERE bunks = :none', { none: null })).toEqual([]);
});

test('what is added to a row takes no field’s place: a field that is called like an alias, a rank, a subquery', async () => {
  const own = engineOf();
  const { store } = own.define('odd', '@.id');
  store.put(0, { id: 1, h: 'mine', place: 'here', found: 'lost' });
  const tree = fieldTree(await own.collections.get('odd')!.shape(() => Promise.resolve()));
  const sql = 'SELECT o.*, RANK() OVER (ORDER BY o.id) AS place FROM odd AS o JOIN odd AS h ON h.id = o.id WHERE EXISTS (SELECT 1 FROM odd AS x WHERE x.id = o.id)'; // prettier-ignore
  const { pipeline } = translateSql(sql, { collections: ['odd'], shapeOf: () => tree });
  const answer = await own.query({ pipeline: pipeline! });
  const rows = answer.ok ? answer.value.documents : answer.problem;
  expect(rows).toMatchObject([{ o: { id: 1, h: 'mine', place: 'here', found: 'lost' }, place: 1 }]);
});

const faulty: readonly (readonly [sql: string, code: string, mend?: string])[] = [
  ['selct 1', 'sql-expected', 'Write SELECT'],
  ['SELECT lenght(name) FROM huts', 'sql-not-taken', 'Write CHAR_LENGTH'],
  ['SELECT name FROM hut', 'unknown-collection', 'Write huts'],
  ['SELECT x.name FROM huts AS h', 'sql-unknown-alias', 'Write h'],
  ['SELECT id FROM bookings b JOIN huts h ON h.id = b.hutId', 'sql-ambiguous', 'Write b.id'],
  ['SELECT name, COUNT(*) FROM huts GROUP BY region', 'sql-not-grouped'],
  ['SELECT id FROM huts WHERE COUNT(*) > 1', 'sql-misplaced'],
  ['SELECT id FROM huts WHERE id NOT IN (SELECT hutId FROM bookings)', 'sql-may-be-null', 'Add hutId IS NOT NULL'],
  ['SELECT id FROM huts UNION SELECT id FROM bookings', 'sql-not-taken'],
  ['SELECT id FROM huts RIGHT JOIN bookings ON TRUE', 'sql-not-taken'],
  ["SELECT id FROM huts WHERE name ILIKE 'a%'", 'sql-not-taken', 'Write LIKE'],
  ['SELECT RANK() OVER () FROM huts', 'sql-no-order'],
  ['SELECT DISTINCT name FROM huts ORDER BY id', 'sql-distinct-order'],
  ['SELECT name FROM huts ORDER BY 3', 'sql-bad-position'],
  ['DELETE FROM huts', 'sql-not-taken'],
  ['SELECT 1; SELECT 2', 'sql-second-question'],
  ["SELECT 'open FROM huts", 'open-string'],
  ['SELECT name FROM huts AS h JOIN huts AS h ON TRUE', 'sql-same-alias'],
  ['SELECT nam FROM huts', 'unknown-field', 'Write name'],
];
test.each(faulty.map(([sql, code, mend]) => ({ sql, code, mend })))('a fault is told with a mend: $code', async ({ sql, code, mend }) => {
  const { diagnostics } = translateSql(sql, await known());
  expect(diagnostics[0]).toMatchObject({ code, ...(mend !== undefined && { mend: { label: mend } }) });
  const { from, to } = diagnostics[0]!;
  expect([from >= 0, to <= sql.length, from <= to]).toEqual([true, true, true]);
  // A mend makes it better: another fault, or none.
  if (mend === undefined) return;
  const edits = [...diagnostics[0]!.mend!.edits].sort((a, b) => b.from - a.from);
  const mended = edits.reduce((text, edit) => text.slice(0, edit.from) + edit.insert + text.slice(edit.to), sql);
  expect(translateSql(mended, await known()).diagnostics[0]?.message).not.toBe(diagnostics[0]!.message);
});

test('a column that is not there is called as it is written in SQL', async () => {
  const told = async (sql: string) => translateSql(sql, await known()).diagnostics.map(({ message }) => message);
  expect(await told('SELECT b.nam FROM bookings AS b')).toEqual(['No document of bookings has nam.']);
  expect(await told('SELECT b.id FROM bookings AS b JOIN huts AS h ON h.id = b.hutId WHERE h.nam = 1')).toEqual(['No row here has h.nam. Did you mean name?']); // prettier-ignore
});

test('no text makes it throw, and what is nested too deep gets one diagnostic', () => {
  const words = ['SELECT', 'FROM', 'huts', 'WHERE', '(', ')', ',', '.', '*', 'JOIN', 'ON', "'a'", '"b"', ':p', '1', '=', 'NOT', 'IN', 'CASE', 'WHEN', 'END', 'GROUP BY', 'ORDER BY', 'OVER', 'COUNT', 'UNNEST', 'WITH', 'AS', 'x', '[', ']', '--', '/*', ';', '||', '\ud800']; // prettier-ignore
  fc.assert(
    fc.property(
      fc.oneof(
        fc.string({ unit: 'binary' }),
        fc.array(fc.constantFrom(...words)).map((some) => some.join(' ')),
      ),
      (text) => {
        expect(Array.isArray(translateSql(text).diagnostics)).toBe(true);
        expect(typeof formatSql(text)).toBe('string');
        completeSql(text, text.length);
        outlineSql(text);
      },
    ),
    { numRuns: 1_000 },
  );
  for (const open of ['(', 'NOT ', '- ', 'COALESCE(', 'CASE WHEN ']) {
    const { diagnostics } = translateSql(`SELECT ${open.repeat(10_000)}1 FROM huts`);
    expect(diagnostics).toHaveLength(1);
  }
});

test('clauses tell which lines they became, and the outline what is read', async () => {
  const sql = "SELECT h.region, COUNT(*) AS n\nFROM bookings AS b\nJOIN huts AS h ON h.id = b.hutId\nWHERE b.status = 'late'\nGROUP BY h.region\nORDER BY n"; // prettier-ignore
  const { pipeline, clauses } = translateSql(sql, await known());
  const lines = pipeline!.split('\n');
  const of = (word: string) => clauses.find(({ from, to }) => sql.slice(from, to).startsWith(word))!.lines.map((line) => lines[line - 1]!.split(' ')[0]); // prettier-ignore
  expect([of('FROM'), of('JOIN'), of('WHERE'), of('GROUP'), of('ORDER'), of('SELECT')]).toEqual([['from'], ['join'], ['where'], ['group'], ['order'], ['select']]); // prettier-ignore
  const inner = 'WITH huts AS (SELECT id FROM bookings) SELECT id FROM huts WHERE id IN (SELECT id FROM other)';
  expect(outlineSql(inner).sources.map(({ name }) => name)).toEqual(['bookings', 'other']);
  expect(withSqlSource(inner, 'other', 'odd name')).toBe(inner.replace('other', '"odd name"'));
});

test('a layout means the same, and is its own', async () => {
  const sql = "select h.region,count(*) filter(where b.status='late') n from bookings b left join huts as h on h.id=b.hutId where b.id in(select id from bookings where party.size>2) group by h.region order by n desc -- done"; // prettier-ignore
  const laid = formatSql(sql);
  expect(laid).toContain(
    '\nLEFT JOIN huts AS h ON h.id = b.hutId\nWHERE b.id IN (\n  SELECT id\n  FROM bookings\n  WHERE party.size > 2\n)',
  );
  expect(formatSql(laid)).toBe(laid);
  expect(translateSql(laid, await known()).pipeline).toBe(translateSql(sql, await known()).pipeline);
});

test.each([
  ['SELECT b.| FROM bookings b', ['id', 'hutId', 'status', 'party', 'nights', 'on']],
  ['SELECT b.party.| FROM bookings b', ['size']],
  ['SELECT b.nights[0].| FROM bookings b', ['fee', 'extras']],
  ['SELECT * FROM bookings b CROSS JOIN UNNEST(b.nights) AS n WHERE n.|', ['fee', 'extras']],
  ['SELECT * FROM |', ['huts', 'bookings', 'UNNEST']],
  ['WITH late AS (SELECT 1 FROM huts) SELECT * FROM |', ['late', 'huts', 'bookings', 'UNNEST']],
])('%s is completed from what there is', async (text, expected) => {
  const at = text.indexOf('|');
  const found = completeSql(text.replace('|', ''), at, await known());
  expect(found?.options.map(({ label }) => label)).toEqual(expected);
});

test('a pipeline that SQL cannot say tells which line, and says nothing else', () => {
  const printed = (text: string) => printSql(usualSurface.parse(text));
  expect(printed('from huts\nsample 3')).toEqual({ sql: undefined, notes: [{ line: 2, message: expect.stringContaining('sample') as string, unsaid: true }] }); // prettier-ignore
  expect(printed('from huts\nwhere contains(@.name, "50%")').sql).toBe("SELECT *\nFROM huts\nWHERE name LIKE '%50!%%' ESCAPE '!'");
});
