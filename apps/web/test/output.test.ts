import fc from 'fast-check';
import {
  columnLabel,
  columnsOf,
  columnsOfPages,
  inChosenOrder,
  isPlainObject,
  shortText,
  valueAt,
  withFirst,
} from '../src/parts/documents/columns.ts';
import { stringify } from '../src/parts/documents/rowsAsText.ts';
import { chartColumns, chartData, fittingChart } from '../src/features/bench/output/chart/chartData.ts';
import { writtenPath } from '../src/features/bench/output/table/writtenPath.ts';

const rows = [
  { id: 1, at: { type: 'Point', coordinates: [9.5, 46] }, fee: { night: 4 }, list: [{ a: 1 }, { a: 2 }], 'odd name': 'x' },
  { id: 2, fee: { night: 5, day: 2 }, list: [] },
  { id: 3, fee: null, list: 7 },
];
const labels = (layout?: Parameters<typeof columnsOf>[1]) => columnsOf(rows, layout).map(({ names }) => columnLabel(names));

test('columns are the leaf paths of the rows, spread and folded as was chosen', () => {
  expect(labels()).toEqual(['id', 'at', 'fee.night', 'list', 'odd name', 'fee.day']);
  expect(labels({ spread: ['["list"]'], folded: ['["fee"]'] })).toEqual(['id', 'at', 'fee', 'list[0].a', 'list[1].a', 'odd name', 'list']);
  expect(valueAt(rows[0], ['list', 1, 'a'])).toBe(2);
  expect(valueAt({ list: 'text' }, ['list', 0])).toBeUndefined();
  expect(
    inChosenOrder(columnsOf(rows), ['["list"]', '["at"]'])
      .map(({ id }) => id)
      .slice(0, 3),
  ).toEqual(['["list"]', '["at"]', '["id"]']);
  expect(writtenPath('["list",0,"odd name"]')).toBe("@.list[0]['odd name']");
});

describe('nothing that a row has is without a column', () => {
  const name = fc.constantFrom('a', 'b', 'a.b', 'id', '__proto__', '');
  const { row } = fc.letrec((tie) => ({
    row: fc.dictionary(name, tie('value'), { maxKeys: 3 }),
    value: fc.oneof({ weight: 3, arbitrary: fc.constantFrom<unknown>(1, 'x', null, true, [], [1, { a: 2 }], {}, { type: 'Point', coordinates: [9, 46] }) }, tie('row')),
  })); // prettier-ignore
  const rows = fc.array(row as fc.Arbitrary<Record<string, unknown>>, { minLength: 1, maxLength: 6 });
  /** What a row says, by its path; null, and what has nothing in it, may go without. */
  const said = (value: unknown, path: readonly string[] = []): [string, unknown][] => {
    if (isPlainObject(value) && !('coordinates' in value)) return Object.keys(value).flatMap((key) => said(value[key], [...path, key]));
    const isNothing = value === null || (Array.isArray(value) && value.length === 0);
    return isNothing ? [] : [[JSON.stringify(path), value]];
  };
  test('whatever the fields are in other rows', () => {
    fc.assert(
      fc.property(rows, (some) => {
        const columns = columnsOf(some);
        expect(new Set(columns.map(({ id }) => id)).size).toBe(columns.length);
        for (const one of some) {
          const shown = new Map(columns.map(({ id, names }) => [id, valueAt(one, names)]));
          for (const [path, value] of said(one)) expect(shown.get(path)).toBe(value);
        }
      }),
      { numRuns: 1_000 },
    );
  });
  test('nor where it stands far behind in an array that is spread', () => {
    const lists = [{ a: [1, 2] }, { a: Array.from({ length: 9 }, (_, i) => i) }];
    const labels = (some: readonly unknown[]) => columnsOf(some, { spread: ['["a"]'], folded: [] }).map(({ names }) => columnLabel(names));
    expect(labels(lists.slice(0, 1))).toEqual(['a[0]', 'a[1]']);
    expect(labels(lists)).toEqual([...Array.from({ length: 8 }, (_, i) => `a[${i}]`), 'a']);
  });
  test('nor where it comes with a later page: what was seen before stays, and what is new comes after', () => {
    const layout = { spread: ['["list"]'], folded: ['["b"]'] };
    fc.assert(
      fc.property(rows, rows, rows, (first, second, other) => {
        const both = [...first, ...second];
        const before = columnsOfPages(first, layout).map(({ id }) => id);
        expect(columnsOfPages(both, layout)).toEqual(columnsOf(both, layout));
        expect(columnsOfPages([first[0], ...other], layout)).toEqual(columnsOf([first[0], ...other], layout));
        expect(before).toEqual(columnsOf(first, layout).map(({ id }) => id));
      }),
      { numRuns: 300 },
    );
  });
  test('and in a CSV it stands once', () => {
    const mixed = [{ id: 1, hut: 'h-1' }, { id: 2, hut: { name: 'Fern', at: null } }, { id: 3, hut: [1] }]; // prettier-ignore
    expect(stringify(mixed, 'csv')).toBe('id,hut,hut.name,hut.at\r\n1,h-1,,\r\n2,,Fern,\r\n3,[1],,');
  });
});

test.each<[unknown, string]>([
  [undefined, ''],
  [null, 'null'],
  [[], '[ ]'],
  [[1, 'a'], '1, a'],
  [[{}, {}], '[2 elements]'],
  [[1, 2, 3, 4, 5], '[5 elements]'],
  [{ a: 1, b: 2 }, '{2 fields}'],
  [{ type: 'Point', coordinates: [9, 46] }, '9, 46'],
])('%j stands in a cell as %s', (value, text) => expect(shortText(value)).toBe(text));

test('rows are copied as JSON, NDJSON, CSV and a Markdown table', () => {
  const two = [
    { a: 'x, "y"', b: { c: [1, 2] } },
    { a: 'p|q', b: { c: null } },
  ];
  expect(
    stringify(two, 'ndjson')
      .split('\n')
      .map((line) => JSON.parse(line) as unknown),
  ).toEqual(two);
  expect(JSON.parse(stringify(two, 'json'))).toEqual(two);
  expect(stringify(two, 'csv')).toBe('a,b.c\r\n"x, ""y""","[1,2]"\r\np|q,');
  const formulas = [{ '=a': '=1+1', b: '-5', c: -5, d: '@x', e: 'x=1', f: ['=1'] }];
  expect(stringify(formulas, 'csv')).toBe(`'=a,b,c,d,e,f\r\n'=1+1,'-5,-5,'@x,x=1,"[""=1""]"`);
  expect(stringify(formulas, 'markdown')).toContain('| =1+1 | -5 | -5 | @x | x=1 |');
  expect(stringify(two, 'markdown').split('\n')[3]).toBe('| p\\|q |  |');
});

describe('a chart fits the columns', () => {
  const months = [
    { month: '2026-01', region: 'a', fees: 3 },
    { month: '2026-01', region: 'b', fees: 4 },
    { month: '2026-02', region: 'a', fees: null },
    { month: '2025-12', region: 'a', fees: 6 },
  ];
  const fitting = (some: readonly unknown[]) => fittingChart(chartColumns(some), some.length);
  test('dates are a line, a series for each value of a third column, in order of time', () => {
    const settings = fitting(months);
    expect(settings).toEqual({ kind: 'line', across: '["month"]', up: '["fees"]', by: '["region"]' });
    if (settings === undefined) return;
    const { points, series, left } = chartData(months, settings);
    expect(points).toEqual([{ x: '2025-12', up: { a: 6 } }, { x: '2026-01', up: { a: 3, b: 4 } }]); // prettier-ignore
    expect([series, left]).toEqual([['a', 'b'], 1]);
  });
  test.each<[string, readonly unknown[], object | undefined]>([
    ['names are bars', [{ id: 'x', n: 'p', v: 1 }, { id: 'y', n: 'q', v: 2 }], { kind: 'bars', across: '["n"]', up: '["v"]' }],
    ['two numbers are points', [{ v: 1, w: 2 }, { v: 3, w: 4 }], { kind: 'points', across: '["v"]', up: '["w"]' }],
    ['names are so where some are lists', [{ n: 'p', v: 1 }, { n: ['q', 'r'], v: 2 }], { kind: 'bars', across: '["n"]', up: '["v"]' }],
    ['lists alone are no names', [{ n: ['p'], v: 1 }, { n: ['q', 'r'], v: 2 }], undefined],
    ['no number is no chart', [{ n: 'p' }, { n: 'q' }], undefined],
  ])('%s', (_what, some, expected) => (expected ? expect(fitting(some)).toMatchObject(expected) : expect(fitting(some)).toBeUndefined())); // prettier-ignore
  test('many series are joined beyond the largest', () => {
    const many = Array.from({ length: 30 }, (_, i) => ({ n: 'p', s: `s${i}`, v: i }));
    const { series, joined, points } = chartData(many, { kind: 'bars', across: '["n"]', up: '["v"]', by: '["s"]' });
    expect([series.length, joined]).toEqual([8, 23]);
    expect(Object.values(points[0].up).reduce((a, b) => a + b, 0)).toBe(435);
  });
  test('whatever columns and values are called, nothing is put together that is not the same', () => {
    const bars = (some: readonly unknown[], by: string | null = null) =>
      chartData(some, { kind: 'bars', across: '["n"]', up: '["x"]', by }).points;
    expect(bars([{ n: 'p', x: 3 }, { n: 'q', x: 4 }])).toEqual([{ x: 'p', up: { x: 3 } }, { x: 'q', up: { x: 4 } }]); // prettier-ignore
    // A number, the text of it, and one that is missing beside the word.
    expect(bars([{ n: 1, x: 1 }, { n: '1', x: 2 }, { x: 4 }, { n: 'missing', x: 8 }, { n: null, x: 16 }])).toEqual([
      { x: 1, up: { x: 1 } },
      { x: '"1"', up: { x: 2 } },
      { x: 'missing', up: { x: 4 } },
      { x: '"missing"', up: { x: 8 } },
      { x: 'null', up: { x: 16 } },
    ]); // prettier-ignore
    expect(Object.entries(bars([{ n: 'p', s: '__proto__', x: 5 }, { n: 'p', s: 'x', x: 6 }], '["s"]')[0].up)).toEqual([['__proto__', 5], ['x', 6]]); // prettier-ignore
    const called = Array.from({ length: 12 }, (_, i) => ({ n: 'p', s: i === 11 ? 'all others' : `s${i}`, x: i + 1 }));
    const { series } = chartData(called, { kind: 'bars', across: '["n"]', up: '["x"]', by: '["s"]' });
    expect([series.length, new Set(series).size]).toEqual([8, 8]);
    expect(bars(called, '["s"]')[0].up['all others']).toBe(12);
  });
  test('points stand where their two numbers are, each in its series; rows without both are left out', () => {
    const some = [
      { v: 1, w: 2, s: 'a' },
      { v: 1, w: 2, s: 'a' },
      { v: 3, w: null, s: 'a' },
      { v: 'x', w: 1, s: 'b' },
      { v: 3, w: 4, s: 'b' },
    ];
    const { points, series, left } = chartData(some, { kind: 'points', across: '["v"]', up: '["w"]', by: '["s"]' });
    expect(points).toEqual([{ x: 1, up: { a: 2 } }, { x: 1, up: { a: 2 } }, { x: 3, up: { b: 4 } }]); // prettier-ignore
    expect([series, left]).toEqual([['a', 'b'], 2]);
  });
});

test('some columns come first, after the one that tells rows apart; all others keep their order', () => {
  const columns = columnsOf([{ id: 1, name: 'Fern', hut: { region: 'Fell', bunks: 3 }, at: 7 }]);
  const labels = (first: (name: string) => boolean) => withFirst(columns, ({ names }) => first(String(names[0]))).map(({ names }) => columnLabel(names)); // prettier-ignore
  expect(labels((name) => name === 'hut')).toEqual(['id', 'hut.region', 'hut.bunks', 'name', 'at']);
  expect(labels((name) => name === 'id' || name === 'at')).toEqual(['id', 'at', 'name', 'hut.region', 'hut.bunks']);
  expect(withFirst([], () => true)).toEqual([]);
});
