import { lineAt } from '../language/diagnostics/diagnostic.ts';
import { findings } from '../language/diagnostics/findings.ts';
import { Places, type Identified } from '../language/places.ts';
import { isPlaced, type PlacedStage } from '../language/pipeline.ts';
import type { Stage } from '../language/stages/stage.ts';
import { surfaces } from '../language/surfaces/registry.ts';
import type { Surface } from '../language/surfaces/surface.ts';
import type { Expression } from '../language/tree.ts';
import type { PlanNode } from './describePlan.ts';
import { Engine } from './engine.ts';
import type { PlanRequest, QueryRequest } from './requests.ts';

/*
 * A face that nobody needs: stages on one line, parted by `|`: `c | n is 2 | first 3`. It takes what stands here and the line in the
 * registry that `register` is; everything else is asked of the tree.
 */
const pathTo = (name: string, { id }: Identified): Expression => ({
  kind: 'path', root: { kind: 'current' }, segments: [{ descendant: false, selectors: [{ kind: 'name', name, id }], id }], id,
}); // prettier-ignore

function parse(text: string, firstId = 1) {
  const places = new Places(firstId);
  const found = [] as ReturnType<Surface['parse']>['findings'][number][];
  let at = 0;
  const stages = text.split('|').map((part): PlacedStage => {
    const from = at + (part.length - part.trimStart().length);
    const span = { from, to: from + part.trim().length };
    at += part.length + 1;
    const place = places.place(span);
    const node = places.place(span);
    const words = part.trim().split(' ');
    const read = (): Stage | undefined => {
      if (from === text.length - text.trimStart().length) return { kind: 'from', source: words[0], sourceId: node.id };
      if (words[0] === 'first') return { kind: 'limit', count: { kind: 'literal', value: JSON.parse(words[1]) as number, ...node } };
      if (words[1] !== 'is') return undefined;
      const right = { kind: 'literal', value: Number(words[2]), ...node } as const;
      return { kind: 'where', condition: { kind: 'comparison', operator: '==', left: pathTo(words[0], node), right, ...node } };
    };
    const stage = read();
    if (stage === undefined) found.push(findings.expected(span, 'a test or first', words[0]));
    return { stage, off: false, line: lineAt(text, from), wordFrom: from, comments: [], ...span, ...place };
  });
  return { text, places, stages, items: stages, findings: found };
}
const words: Surface['words'] = {
  expression: (expression) => {
    if (expression.kind === 'comparison') return `${words.expression(expression.left)} is ${words.expression(expression.right)}`;
    if (expression.kind === 'and') return expression.operands.map(words.expression).join(' and ');
    if (expression.kind === 'literal') return String(expression.value);
    return expression.kind === 'path' ? words.field(expression.segments.flatMap(({ selectors }) => selectors.flatMap((one) => (one.kind === 'name' ? [one.name] : [])))) : '?'; // prettier-ignore
  },
  orderKey: ({ expression }) => words.expression(expression),
  measure: ({ target }) => target.join(' '),
  name: (names) => names.join(' '),
  field: (names) => names.join(' '),
  places: (lines) => `row ${lines.join(' and ')}`,
};
const print = (stages: readonly Stage[]): string =>
  stages
    .map(
      (stage) =>
      stage.kind === 'from' ? stage.source : stage.kind === 'where' ? words.expression(stage.condition) : stage.kind === 'limit' ? `first ${words.expression(stage.count)}` : '?', // prettier-ignore
    )
    .join(' | ');
const piped: Surface = {
  name: 'piped',
  parse,
  print,
  format: ({ items }) => print(items.filter(isPlaced).flatMap(({ stage }) => stage ?? [])),
  complete: (_, offset) => ({ from: offset, options: [{ label: 'first', kind: 'word' }] }),
  words,
  lineOf: ({ text, places }, id) => lineAt(text, places.of({ id }).from),
};
beforeAll(() => void Object.assign(surfaces, { piped }));
afterAll(() => void Reflect.deleteProperty(surfaces, 'piped'));

const surface = 'piped' as PlanRequest['surface'];
function engineOf(count = 2_000): Engine {
  const engine = new Engine({ pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date(0) });
  const { store } = engine.define('c', '@.id');
  for (let i = 0; i < count; i++) store.put(i, { id: i, n: i % 4, k: i % 7 });
  engine.setViews(new Map([['twos', { pipeline: 'c | n is 2', surface }], ['written', { pipeline: 'from c\nwhere @.n == 2' }]])); // prettier-ignore
  return engine;
}
async function ask(pipeline: string, more: Partial<QueryRequest> = {}) {
  const answer = await engineOf().query({ pipeline, surface, ...more });
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
}
const steps = (node: PlanNode): string[] => [node.detail, ...node.inputs.flatMap(steps)];

test('it is the same question, and each of its stages has its own counts though all stand on one line', async () => {
  const asked = await ask('c | n is 2 | k is 3 | first 5');
  const written = await ask('from c\nwhere @.n == 2\nwhere @.k == 3\nlimit 5', { surface: undefined });
  expect(asked.documents).toEqual(written.documents);
  expect(asked.lines.map(({ line }) => line)).toEqual([1, 1, 1, 1]);
  expect(asked.lines.map(({ rowsOut }) => rowsOut)).toEqual(written.lines.map(({ rowsOut }) => rowsOut));
});

test('plans, reasons, suggestions and notes are told in its words', async () => {
  const { plan, suggestions, weighed } = await ask('c | n is 2 | k is 3');
  expect(steps(plan)).toEqual(['keeps rows with k is 3', 'every document of c, keeping those with n is 2']);
  expect(suggestions[0]).toMatchObject({ lines: [1], reason: expect.stringContaining('n is 2') as string });
  expect(weighed[0].lines).toEqual([1]);
});

test('faults stand in its text', async () => {
  const answer = await engineOf().query({ pipeline: 'c | n was 2', surface });
  expect(answer.ok ? undefined : answer.problem).toMatchObject({ kind: 'pipeline', diagnostics: [{ from: 4, to: 11, line: 1 }] });
  const fault = await engineOf().query({ pipeline: 'c | n is 2\n| first -1', surface });
  expect(fault.ok ? undefined : fault.problem).toMatchObject({ diagnostics: [{ from: 13, to: 21, line: 2 }] });
});

test('views of either face are read from the other, and a document is traced through stages of one line', async () => {
  expect((await ask('twos | k is 3')).documents).toEqual((await ask('c | n is 2 | k is 3')).documents);
  expect((await ask('from twos\nwhere @.k == 3', { surface: undefined })).rowsReturned).toBe((await ask('written | k is 3')).rowsReturned);
  const trace = await engineOf().trace({ pipeline: 'c | n is 2 | first 3 | k is 1', surface }, '6', () => false);
  expect(trace.ok && trace.value.lines.map(({ outcome }) => outcome)).toEqual(['kept', 'kept', 'kept', 'dropped']);
});

test('what it prints it reads back as the same', () => {
  const read = parse('c | n is 2 | first 3');
  expect(piped.format(read)).toBe('c | n is 2 | first 3');
});
