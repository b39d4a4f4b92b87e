/** @jest-environment jsdom */
import { sharedPage, type Shared } from '../src/features/bench/share/sharedPage.ts';

const plan = { step: 'filter', detail: 'keeps rows with @.name < "b"', lines: [2], estimatedRows: 2, rows: 2, documentsRead: 0, indexEntriesRead: 0, timeMs: 1, memoryBytes: 0, inputs: [{ step: 'full scan', detail: 'every document of huts', lines: [1], estimatedRows: 120, rows: 120, documentsRead: 120, indexEntriesRead: 0, timeMs: 2, memoryBytes: 0, inputs: [] }] }; // prettier-ignore
const shared = (more: Partial<Shared> = {}): Shared => ({
  title: 'Huts & <b>more</b>',
  note: null,
  text: 'from huts\nwhere @.name < "b" && @.bunks > 3\n',
  isNotation: true,
  parameters: { least: 4 },
  result: { plan, lines: [{ line: 1, rowsOut: 120, timeMs: 1, stoppedEarly: false }, { line: 2, rowsOut: 2, timeMs: 1, stoppedEarly: false }], rowsReturned: 2, cost: { documentsRead: 120, timeMs: 3 }, bounded: false, approximate: null } as never,
  rows: [{ id: 'a', name: '<script>alert(1)</script>', tags: ['x', null] }, { id: 'b', bunks: 3 }],
  chart: null,
  at: new Date('2026-02-03T04:05:06Z'),
  ...more,
}); // prettier-ignore
const read = (page: string) => new DOMParser().parseFromString(page, 'text/html');

test('text, flow, rows and plan are in it, and what documents hold is text there, whatever it looks like', () => {
  const page = read(sharedPage(shared()));
  expect(page.querySelector('script, b b, link, img')).toBeNull();
  expect(page.title).toBe('Huts & <b>more</b>');
  const cells = (selector: string) => [...page.querySelectorAll(selector)].map((row) => [...row.querySelectorAll('td, th')].map((one) => one.textContent)); // prettier-ignore
  expect(cells('.lines tr')).toEqual([['', '120', 'from huts'], ['', '2', 'where @.name < "b" && @.bunks > 3']]); // prettier-ignore
  expect(cells('.rows tr')).toEqual([['id', 'name', 'tags', 'bunks'], ['a', '<script>alert(1)</script>', '["x",null]', ''], ['b', '', '', '3']]); // prettier-ignore
  expect([...page.querySelectorAll('li > b')].map((one) => one.textContent)).toEqual(['filter', 'full scan']);
  expect(page.body.textContent).toMatch(/Read 120 documents to return 2 rows.*:least = 4/s);
});

test('what is not all of it says so', () => {
  const { result } = shared();
  const page = sharedPage(shared({ result: { ...result, rowsReturned: 5_000, bounded: true, approximate: { effort: 40 } } }));
  expect(page).toMatch(/the first 2 of 5,000 rows/);
  expect(page).toMatch(/Not everything was read/);
  expect(page).toMatch(/the best of 40 candidates/);
});
