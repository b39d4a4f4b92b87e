import type { Json, JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';
import type { EngineProblem, QueryResult } from './requests.ts';

/* Where faults, notes and figures stand: in the text that was asked, or in a view, in a view of a view, or in one that is joined. */
const rows: JsonObject[] = [
  { id: 1, n: 'three', k: 2 },
  { id: 2, n: 4, k: 1 },
];
const views = {
  doubled: 'from c\n\n# twice\ncompute twice = @.n * 2',
  few: 'from doubled\ncompute once = @.twice + "x"\nlimit :most',
};

async function ask(pipeline: string, most: Json = 10) {
  const engine = new Engine({ pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date(0) });
  const { store } = engine.define('c', '@.id');
  rows.forEach((row, i) => store.put(i, row));
  engine.setViews(new Map(Object.entries(views).map(([name, text]) => [name, { pipeline: text, parameters: { most } }])));
  return engine.query({ pipeline });
}
const told = async (pipeline: string): Promise<QueryResult> => {
  const answer = await ask(pipeline);
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
};

test.each<[string, string, string, string]>([
  ['of the text', 'from c\ncompute t = @.n * 2', '@.n * 2', '@.n is text in 1 row'],
  ['of a view', 'from doubled', 'doubled', 'In the view doubled, line 4: @.n is text in 1 row'],
  ['of a view of a view', 'from few', 'few', 'In the view doubled, line 4: @.n is text in 1 row'],
  [
    'of a view that is joined',
    'from c\nwhere @.id == 1\njoin doubled as d on d.id == @.id',
    'doubled',
    'In the view doubled, line 4: @.n is',
  ],
])('a note stands where it belongs: %s', async (_, pipeline, at, message) => {
  const { notes } = await told(pipeline);
  const note = notes.find((one) => one.message.includes('@.n is'));
  expect(note?.message).toContain(message);
  expect(pipeline.slice(note?.from, note?.to)).toBe(at);
  expect(note?.line).toBe(pipeline.split('\n').findIndex((line) => line.includes(at)) + 1);
});

test('a view that is named twice is told of at each name', async () => {
  const pipeline = 'from doubled\njoin doubled as d on d.id == @.id';
  const { notes } = await told(pipeline);
  expect(
    notes
      .filter(({ message }) => message.includes('In the view doubled, line 4'))
      .map(({ line }) => line)
      .sort(),
  ).toEqual([1, 2]);
});

test('a fault of a view is told with its own line, and stands at its name', async () => {
  const answer = await ask('from c\nleft join few as f on f.id == @.id', -1);
  const problem = (answer.ok ? undefined : answer.problem) as Extract<EngineProblem, { kind: 'pipeline' }>;
  expect(problem.message).toContain('In the view few, line 3: limit takes a whole number');
  expect(problem.diagnostics[0]).toMatchObject({ line: 2, from: 17, to: 20 });
});

test('all stages of a view count for the line that names it', async () => {
  const { lines, plan } = await told('from few\nwhere @.id == 2\njoin doubled as d on d.id == @.id');
  expect(lines.map(({ line, rowsOut }) => [line, rowsOut])).toEqual([[1, 2], [2, 1], [3, 1]]); // prettier-ignore
  const all: number[] = [];
  const visit = (node: typeof plan): void => {
    all.push(...node.lines);
    node.inputs.forEach(visit);
  };
  visit(plan);
  expect([...new Set(all)].sort()).toEqual([1, 2, 3]);
});
