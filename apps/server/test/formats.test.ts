import fc from 'fast-check';
import type { JsonObject } from '@zesty-sieve/core';
import { CsvReader, type CsvOptions } from '../src/formats/csv.ts';
import { LeafColumns } from '../src/formats/csvOut.ts';
import { JsonArrayReader } from '../src/formats/jsonArray.ts';
import { NdjsonReader } from '../src/formats/ndjson.ts';
import type { FoundRecord, RecordReader } from '../src/formats/record.ts';
import { mergePatch } from '../src/storage/mergePatch.ts';

const plain: CsvOptions = { types: 'auto', delimiter: ',' };

/** All records of a text that comes in pieces. */
async function read(reader: RecordReader, ...pieces: readonly string[]): Promise<FoundRecord[]> {
  const found: FoundRecord[] = [];
  for (const piece of pieces) found.push(...(await reader.push(piece)));
  return [...found, ...(await reader.end())];
}
const documents = (records: readonly FoundRecord[]) =>
  records.map(({ text, problem }) => (text === undefined ? problem : (JSON.parse(text) as unknown)));

describe('CSV', () => {
  test.each<[string, Partial<CsvOptions>, string, unknown[]]>([
    ['types are told from what is written', {}, 'a,b,c,d\n1,-2.5,true,x\n', [{ a: 1, b: -2.5, c: true, d: 'x' }]],
    [
      'what would not come back as it was stays text',
      {},
      'a,b,c,d,e\n0E0,1.50,-0,1e400,-2.5e3\n',
      [{ a: '0E0', b: '1.50', c: '-0', d: '1e400', e: '-2.5e3' }],
    ],
    ['unless its column is of numbers', { columns: 'a:number,b:number' }, 'a,b\n0E0,1.50\n', [{ a: 0, b: 1.5 }]],
    ['what is quoted is text', {}, 'a,b,c\n"1","true",""\n', [{ a: '1', b: 'true', c: '' }]],
    ['an empty cell is no field', {}, 'a,b\n,2\n1,\n', [{ b: 2 }, { a: 1 }]],
    ['digits that a number would lose stay text', {}, 'a,b\n9007199254740993,0012\n', [{ a: '9007199254740993', b: '0012' }]],
    ['a dot in a name is a field of a field', {}, 'place.region,place.at,n\nnorth,7,1\n', [{ place: { region: 'north', at: 7 }, n: 1 }]],
    ['another delimiter', { delimiter: ';' }, 'a;b\n1,5;2\n', [{ a: '1,5', b: 2 }]],
    ['no header', { header: 'no' }, '1,x\n', [{ column1: 1, column2: 'x' }]],
    ['all text', { types: 'text' }, 'a,b\n1,true\n', [{ a: '1', b: 'true' }]],
    ['types of columns', { columns: 'a:text,b:number,c:skip' }, 'a,b,c\n1,2,3\n', [{ a: '1', b: 2 }]],
    ['a cell that is not of its type', { columns: 'a:number' }, 'a\nx\n2\n', ['a is to be a number, and is "x"', { a: 2 }]],
    ['more cells than columns', {}, 'a\n1,2\n3\n', ['it has 2 cells, and the header names 1 columns', { a: 3 }]],
    ['a mark of byte order, and empty lines', {}, '\ufeffa\n\n1\n\n', [{ a: 1 }]],
    ['line breaks and quotes inside quotes', {}, 'a,b\n"x\n""y""",1\n', [{ a: 'x\n"y"', b: 1 }]],
    ['a name that objects have of themselves', {}, '__proto__,constructor\n1,2\n', [JSON.parse('{"__proto__":1,"constructor":2}')]],
  ])('%s', async (_, options, text, expected) => {
    expect(documents(await read(new CsvReader({ ...plain, ...options }), text))).toEqual(expected);
  });

  test('what looks like a number and stays text is told of, some for each column', async () => {
    const records = await read(new CsvReader(plain), `a,b\n${'0E0,x\n'.repeat(50)}1,1.50\n`);
    const told = records.flatMap(({ line, warnings = [] }) => warnings.map(({ path }) => [line, path]));
    expect(told.filter(([, path]) => path === 'a')).toHaveLength(20);
    expect(told[0]).toEqual([2, 'a']);
    expect(told.at(-1)).toEqual([52, 'b']);
    expect(records[0].warnings?.[0].reason).toContain('0E0 stays text: as a number it would come back as 0.');
  });

  test('records know the lines on which they begin', async () => {
    const records = await read(new CsvReader(plain), 'a,b\n1,"x\ny"\n\n2,z\n');
    expect(records.map(({ line }) => line)).toEqual([2, 5]);
  });

  test('a file that ends within quotes is broken', async () => {
    await expect(read(new CsvReader(plain), 'a\n"x')).rejects.toThrow('The CSV cannot be read');
  });

  const cell = fc.oneof(
    fc.string(),
    fc.constantFrom('', '1', 'true', ' x ', 'a,b', 'say "hi"', 'two\nlines', '\ufeff', '007'),
    fc.integer(),
    fc.double({ noNaN: true, noDefaultInfinity: true }).filter((n) => !Object.is(n, -0) && Math.abs(n) < 2 ** 53),
    fc.boolean(),
  );
  test('what was written out is read in as it was', async () => {
    const row = fc.record(
      { id: fc.integer(), a: cell, place: fc.record({ b: cell, c: cell }, { requiredKeys: [] }) },
      { requiredKeys: ['id'] },
    );
    await fc.assert(
      fc.asyncProperty(fc.array(row, { minLength: 1, maxLength: 8 }), async (rows) => {
        const columns = new LeafColumns(false);
        // A place without anything in it is a leaf of its own; here every leaf is a cell.
        const full = rows.map(({ place, ...rest }) =>
          place !== undefined && Object.keys(place).length > 0 ? { ...rest, place } : rest,
        ) as JsonObject[];
        for (const one of full) columns.add(one);
        const text = columns.header + full.map((one) => columns.row(one)).join('');
        expect(documents(await read(new CsvReader(plain), text))).toEqual(full);
      }),
      { numRuns: 300 },
    );
  });
});

test('no value stands in the column of another, whatever the fields are called', () => {
  const name = fc.constantFrom('a', 'b', 'a.b', 'a.b.c', 'b.a', '__proto__', '');
  const { document } = fc.letrec((tie) => ({
    document: fc.dictionary(name, fc.oneof({ weight: 2, arbitrary: fc.nat(9_999).map((n) => `v${n}`) }, tie('document')), { minKeys: 1, maxKeys: 4 }),
  }));
  const leaves = (value: unknown): string[] => (typeof value === 'string' ? [value] : Object.values(value as object).flatMap(leaves));
  fc.assert(
    fc.property(fc.array(document as fc.Arbitrary<JsonObject>, { minLength: 1, maxLength: 5 }), (documents) => {
      const columns = new LeafColumns(false);
      for (const one of documents) columns.add(one);
      const head = columns.header.trimEnd().split(/,(?=(?:[^"]*"[^"]*")*[^"]*$)/);
      expect(new Set(head).size).toBe(head.length);
      for (const one of documents) {
        const cells = columns.row(one).trimEnd().split(',');
        expect(cells).toHaveLength(head.length);
        expect(cells.filter((cell) => cell !== '').sort()).toEqual(leaves(one).sort());
      }
    }),
    { numRuns: 500 },
  );
}); // prettier-ignore

describe('JSON', () => {
  test.each<[string, RecordReader, string, unknown[]]>([
    ['a document a line', new NdjsonReader(), '{"a":1}\n\n  {"a":2}  \r\n{"a":3}', [{ a: 1 }, { a: 2 }, { a: 3 }]],
    ['an array', new JsonArrayReader(), ' [ {"a": "]}\\"" } , 7,\n"x" ] ', [{ a: ']}"' }, 7, 'x']],
    ['an empty array', new JsonArrayReader(), '[]', []],
    ['one object', new JsonArrayReader(), '{"a": [1, {"b": 2}]}', [{ a: [1, { b: 2 }] }]],
  ])('%s', async (_, reader, text, expected) => expect(documents(await read(reader, text))).toEqual(expected));

  test('the text of an element stays as it came in', async () => {
    const [record] = await read(new JsonArrayReader(), '[ {"a" : 1.0,  "b":1e2} ]');
    expect(record.text?.trim()).toBe('{"a" : 1.0,  "b":1e2}');
  });

  test.each(['[{"a":1}', '[1,', '', '{"a":'])('%s is cut off', async (text) => {
    await expect(read(new JsonArrayReader(), text)).rejects.toThrow('cut off');
  });
});

test.each<[string, () => RecordReader, string]>([
  ['CSV', () => new CsvReader(plain), 'a,b\n1,"x\ny"\r\n2,"é😀, ""q"""\n\n3,\n'],
  ['a document a line', () => new NdjsonReader(), '{"a":"é😀"}\n\nnot json\n{"a":[1,2]}'],
  ['an array', () => new JsonArrayReader(), '[{"a":"]😀"},\n [1,{"b":"\\""}],\n2]'],
])('%s reads the same however it comes in pieces', async (_, make, text) => {
  const whole = await read(make(), text);
  await fc.assert(
    fc.asyncProperty(fc.array(fc.nat(text.length), { maxLength: 8 }), async (cuts) => {
      // Text is decoded before it comes here, so that no piece ends within a code point.
      const isWithin = (cut: number) => /[\udc00-\udfff]/.test(text.charAt(cut));
      const at = [0, ...cuts.filter((cut) => !isWithin(cut)).sort((a, b) => a - b), text.length];
      const pieces = at.slice(1).map((to, i) => text.slice(at[i], to));
      expect(await read(make(), ...pieces)).toEqual(whole);
    }),
    { numRuns: 120 },
  );
});

// The examples of RFC 7396, appendix A.
test.each<[unknown, unknown, unknown]>([
  [{ a: 'b' }, { a: 'c' }, { a: 'c' }],
  [{ a: 'b' }, { b: 'c' }, { a: 'b', b: 'c' }],
  [{ a: 'b' }, { a: null }, {}],
  [{ a: 'b', b: 'c' }, { a: null }, { b: 'c' }],
  [{ a: ['b'] }, { a: 'c' }, { a: 'c' }],
  [{ a: 'c' }, { a: ['b'] }, { a: ['b'] }],
  [{ a: { b: 'c' } }, { a: { b: 'd', c: null } }, { a: { b: 'd' } }],
  [{ a: [{ b: 'c' }] }, { a: [1] }, { a: [1] }],
  [
    ['a', 'b'],
    ['c', 'd'],
    ['c', 'd'],
  ],
  [{ a: 'b' }, ['c'], ['c']],
  [{ a: 'foo' }, null, null],
  [{ a: 'foo' }, 'bar', 'bar'],
  [{ e: null }, { a: 1 }, { e: null, a: 1 }],
  [[1, 2], { a: 'b', c: null }, { a: 'b' }],
  [{}, { a: { bb: { ccc: null } } }, { a: { bb: {} } }],
])('%j merged with %j is %j', (target, patch, expected) => {
  const before = JSON.stringify(target);
  expect(mergePatch(target, patch)).toEqual(expected);
  expect(JSON.stringify(target)).toBe(before);
});
