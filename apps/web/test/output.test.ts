import { columnLabel, columnsOf, inChosenOrder, shortText, valueAt, withFirst } from '../src/parts/documents/columns.ts';
import { stringify } from '../src/features/bench/output/copyFormats.ts';
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
  expect(labels({ spread: ['["list"]'], folded: ['["fee"]'] })).toEqual(['id', 'at', 'fee', 'list[0].a', 'list[1].a', 'odd name']);
  expect(valueAt(rows[0], ['list', 1, 'a'])).toBe(2);
  expect(valueAt({ list: 'text' }, ['list', 0])).toBeUndefined();
  expect(
    inChosenOrder(columnsOf(rows), ['["list"]', '["at"]'])
      .map(({ id }) => id)
      .slice(0, 3),
  ).toEqual(['["list"]', '["at"]', '["id"]']);
  expect(writtenPath('["list",0,"odd name"]')).toBe("@.list[0]['odd name']");
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
    expect(points).toEqual([{ x: '2025-12', a: 6 }, { x: '2026-01', a: 3, b: 4 }]); // prettier-ignore
    expect([series, left]).toEqual([['a', 'b'], 1]);
  });
  test.each<[string, readonly unknown[], object | undefined]>([
    ['names are bars', [{ id: 'x', n: 'p', v: 1 }, { id: 'y', n: 'q', v: 2 }], { kind: 'bars', across: '["n"]', up: '["v"]' }],
    ['two numbers are points', [{ v: 1, w: 2 }, { v: 3, w: 4 }], { kind: 'points', across: '["v"]', up: '["w"]' }],
    ['no number is no chart', [{ n: 'p' }, { n: 'q' }], undefined],
  ])('%s', (_what, some, expected) => (expected ? expect(fitting(some)).toMatchObject(expected) : expect(fitting(some)).toBeUndefined())); // prettier-ignore
  test('many series are joined beyond the largest', () => {
    const many = Array.from({ length: 30 }, (_, i) => ({ n: 'p', s: `s${i}`, v: i }));
    const { series, joined, points } = chartData(many, { kind: 'bars', across: '["n"]', up: '["v"]', by: '["s"]' });
    expect([series.length, joined]).toEqual([8, 23]);
    expect(
      Object.values(points[0])
        .filter((value) => typeof value === 'number')
        .reduce((a, b) => a + b, 0),
    ).toBe(435);
  });
});

test('some columns come first, after the one that tells rows apart; all others keep their order', () => {
  const columns = columnsOf([{ id: 1, name: 'Fern', hut: { region: 'Fell', bunks: 3 }, at: 7 }]);
  const labels = (first: (name: string) => boolean) => withFirst(columns, ({ names }) => first(String(names[0]))).map(({ names }) => columnLabel(names)); // prettier-ignore
  expect(labels((name) => name === 'hut')).toEqual(['id', 'hut.region', 'hut.bunks', 'name', 'at']);
  expect(labels((name) => name === 'id' || name === 'at')).toEqual(['id', 'at', 'name', 'hut.region', 'hut.bunks']);
  expect(withFirst([], () => true)).toEqual([]);
});
