import fc from 'fast-check';
import type { IndexDefinition, IndexRequest } from '../indexes/definition.ts';
import type { BuiltIndex, IndexKind, PositionsAccess } from '../indexes/kind.ts';
import { indexKinds, readIndex } from '../indexes/kinds.ts';
import { printExpression } from '../language/surfaces/notation/print.ts';
import type { Expression } from '../language/tree.ts';
import type { DocumentChange } from '../storage/residentStore.ts';
import { readField } from '../values/fields.ts';
import type { JsonObject } from '../values/json.ts';
import type { PlanNode } from './describePlan.ts';
import { Engine } from './engine.ts';
import type { QueryRequest } from './requests.ts';

/*
 * A kind of index that nobody needs: which documents have a text of so many letters. All that it takes stands here, as a folder
 * of its own would have it; and the line in the registry is `register` below.
 */
class LengthIndex implements BuiltIndex {
  readonly definition: IndexDefinition;
  private readonly byLength = new Map<number, Set<number>>();
  entries = 0;

  constructor(definition: IndexDefinition) {
    this.definition = definition;
  }
  get bytes(): number {
    return this.entries * 40;
  }
  violation(): undefined {
    return undefined;
  }
  private lengthOf(document: JsonObject | undefined): number | undefined {
    const text = document && readField(document, this.definition.keys[0].text.slice(2));
    return typeof text === 'string' ? [...text].length : undefined;
  }
  apply({ position, before, after }: DocumentChange): void {
    const [left, right] = [this.lengthOf(before), this.lengthOf(after)];
    if (left !== undefined && this.byLength.get(left)?.delete(position)) this.entries--;
    if (right === undefined) return;
    const positions = this.byLength.get(right) ?? new Set();
    this.byLength.set(right, positions.add(position));
    this.entries++;
  }
  positionsOf(length: number): readonly number[] {
    return [...(this.byLength.get(length) ?? [])];
  }
}

/** The text whose length a condition asks for, and the length. */
function askedLength(condition: Expression): { text: string; value: Expression } | undefined {
  if (condition.kind === 'call' && condition.name === 'match') {
    const [path, pattern] = condition.arguments;
    const letters = pattern.kind === 'literal' ? /^x\{(\d+)\}$/.exec(String(pattern.value))?.[1] : undefined;
    return letters === undefined
      ? undefined
      : { text: printExpression(path), value: { ...pattern, kind: 'literal', value: Number(letters) } };
  }
  if (condition.kind !== 'comparison' || condition.operator !== '==') return undefined;
  const { left, right } = condition;
  return left.kind === 'call' && left.name === 'length' ? { text: printExpression(left.arguments[0]), value: right } : undefined;
}

const access: PositionsAccess<LengthIndex> = {
  by: 'positions',
  match: (index, { conditions, valueOf, isConstant }) => {
    const [key] = index.definition.keys;
    const at = conditions.findIndex((condition) => {
      const asked = askedLength(condition);
      return asked !== undefined && asked.text === key.text && isConstant(asked.value);
    });
    const asked = at < 0 ? undefined : askedLength(conditions[at]);
    if (asked === undefined) return `nothing is asked of the length of ${key.text}`;
    const length = valueOf(asked.value);
    const found = typeof length === 'number' ? index.positionsOf(length).length : 0;
    return [
      {
        lookup: length,
        words: `length of ${key.text} == ${String(length)}`,
        entries: found,
        used: [at],
        served: conditions[at].kind === 'comparison' ? [at] : [],
      },
    ];
  },
  find: (index, lookup) => (typeof lookup === 'number' ? index.positionsOf(lookup) : []),
  candidates: ({ conditions, isConstant }) =>
    conditions.flatMap((condition) => {
      const asked = askedLength(condition);
      return asked !== undefined && isConstant(asked.value) ? [{ keys: [asked.text] }] : [];
    }),
};
const lengths: IndexKind<LengthIndex> = {
  words: { title: 'Length', doc: 'Texts of so many letters.' },
  unfit: ({ keys, unique }) => (keys.length > 1 ? 'An index of lengths has one key.' : unique ? 'Lengths cannot be unique.' : undefined),
  *build(definition, store) {
    const index = new LengthIndex(definition);
    for (const [position, document] of store.documents.entries()) {
      if (document !== undefined) index.apply({ position, before: undefined, after: document });
      if (position % 1_000 === 0) yield { phase: 'reading', share: position / store.documents.length };
    }
    return index;
  },
  *check(index, store) {
    yield 0;
    const fresh = lengths.build(index.definition, store);
    let step = fresh.next();
    while (!step.done) step = fresh.next();
    return { name: index.definition.name, entries: index.entries, expected: step.value.entries, missing: 0, repeated: 0, misplaced: 0, absent: 0, notUnique: 0 }; // prettier-ignore
  },
  summary: ({ entries }) => ({ entries }),
  access,
};
function register(): void {
  Object.assign(indexKinds, { length: lengths });
}
beforeAll(register);
afterAll(() => Reflect.deleteProperty(indexKinds, 'length'));

const ofLength = (keys: string[], more: Partial<IndexRequest> = {}) => ({ keys, kind: 'length' as 'ordered', ...more });
const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };
const text = (i: number) => 'x'.repeat((i * 7) % 300);
const fill = (count: number): Engine => {
  const engine = new Engine(host);
  const { store } = engine.define('c', '@.id');
  for (let i = 0; i < count; i++) store.put(i, { id: i, n: i % 4, ...(i % 11 > 0 && { t: text(i) }) });
  return engine;
};
const build = (engine: Engine, request = ofLength(['@.t'])) => engine.collections.get('c')?.buildIndex(readIndex(request), host.pause);
async function ask(engine: Engine, stages: string, more: Partial<QueryRequest> = {}) {
  const answer = await engine.query({ pipeline: `from c\n${stages}`, pageSize: 10_000, ...more });
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
}
const leaf = (plan: PlanNode): PlanNode => (plan.inputs.length === 0 ? plan : leaf(plan.inputs[0]));

test('it is built, used where it serves, and told in the plan with why the others lost', async () => {
  const engine = fill(6_000);
  const scanned = await ask(engine, 'where length(@.t) == 14 && @.n == 2');
  await build(engine);
  const found = await ask(engine, 'where length(@.t) == 14 && @.n == 2');
  expect(found.documents).toEqual(scanned.documents);
  expect(leaf(found.plan)).toMatchObject({ step: 'index lookup', index: 't_length', detail: 'c by t_length, length of @.t == 14, keeping those with @.n == 2', lines: [1, 2] }); // prettier-ignore
  expect(found.cost.documentsRead).toBeLessThan(30);
  expect(found.cost.indexEntriesRead).toBe(found.cost.documentsRead);
  expect(found.lines.map(({ rowsOut }) => rowsOut)).toEqual([found.cost.documentsRead, found.rowsReturned]);
  expect(found.weighed.map(({ way, chosen, index }) => [way, chosen, index])).toEqual(
    expect.arrayContaining([['index lookup', true, 't_length'], ['full scan', false, undefined]]), // prettier-ignore
  );
  const unserved = await ask(engine, 'where @.n == 2');
  expect(unserved.weighed).toContainEqual(expect.objectContaining({ index: 't_length', reason: 'nothing is asked of the length of @.t' }));
  expect(leaf((await ask(engine, 'where length(@.t) == 14', { ignoreIndexes: ['t_length'] })).plan).step).toBe('full scan');
});

test('it is advised, planned against before it is built, and insisted on', async () => {
  const engine = fill(6_000);
  // What an ordered index on a computed key serves as well is left to that.
  expect((await ask(engine, 'where length(@.t) == 14')).suggestions).toMatchObject([{ keys: ['length(@.t)'] }]);
  const [advised] = (await ask(engine, 'where match(@.t, "x{14}")')).suggestions;
  expect(advised).toMatchObject({ collection: 'c', keys: ['@.t'], kind: 'length' });
  const planned = engine.plan({ pipeline: 'from c\nwhere length(@.t) == 14', whatIf: [ofLength(['@.t'])] });
  expect(planned.ok && leaf(planned.value.plan).step).toBe('index lookup');
  expect(planned.ok && planned.value.weighed[0]).toMatchObject({ whatIf: true, chosen: true });
  await build(engine);
  expect((await ask(engine, 'where match(@.t, "x{14}")')).suggestions).toEqual([]);
  const insisted = await ask(engine, 'where length(@.t) == :n\norder by @.id desc', {
    parameters: { n: 21 },
    useIndex: 't_length',
    ways: 'index',
  });
  expect(leaf(insisted.plan).index).toBe('t_length');
  expect(insisted.documents).toEqual((await ask(engine, 'where length(@.t) == 21\norder by @.id desc', { ways: 'full scan' })).documents);
});

test('it follows every change, passes the check, and goes', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.array(fc.tuple(fc.nat(59), fc.option(fc.string({ maxLength: 4 }), { nil: undefined })), { minLength: 1, maxLength: 30 }), { maxLength: 6 }), // prettier-ignore
      async (changes) => {
        const engine = fill(60);
        await build(engine);
        const collection = engine.collections.get('c');
        for (const change of changes) {
          const last = new Map(change);
          await collection?.apply([...last].map(([position, t]) => ({ position, document: t === undefined ? undefined : { id: position, t } }))); // prettier-ignore
        }
        for (const asked of ['where length(@.t) == 2', 'where length(@.t) == 0\nlimit 2'])
          expect((await ask(engine, asked, { useIndex: 't_length' })).documents).toEqual(
            (await ask(engine, asked, { ignoreIndexes: ['t_length'] })).documents,
          );
        const checks = (await collection?.checkIndexes(host.pause)) ?? [];
        expect(checks.map(({ entries, expected }) => entries - expected)).toEqual(checks.map(() => 0));
        expect(collection?.dropIndex('t_length')).toBe(true);
        expect(leaf((await ask(engine, 'where length(@.t) == 2')).plan).step).toBe('full scan');
      },
    ),
    { numRuns: 60 },
  );
});

test('what is no definition of a kind is refused, and a kind that is not there', () => {
  expect(() => readIndex(ofLength(['@.t', '@.n']))).toThrow('An index of lengths has one key.');
  expect(() => readIndex(ofLength(['@.t'], { unique: true }))).toThrow('Lengths cannot be unique.');
  expect(() => readIndex({ keys: ['@.t'], kind: 'colour' as 'ordered' })).toThrow('There is no kind of index colour.');
  expect(() => readIndex({ keys: ['@.a[*]', '@.b[*]'] })).toThrow('one key that selects several values');
});
