import fc from 'fast-check';
import { compilePair, compileTest, compileValue } from '../expressions/compile.ts';
import { makeContext } from '../expressions/context.ts';
import { readDefinition } from '../indexes/definition.ts';
import { usualSurface } from '../language/surfaces/registry.ts';
import { partnerName } from '../language/stages/join.ts';
import { isJoin, isRank, type OrderKey, type Stage } from '../language/stages/stage.ts';
import type { RuleName } from '../planner/logical.ts';
import { keyOfAll } from '../values/keys.ts';
import type { Json, JsonObject, Value } from '../values/json.ts';
import { compareValues } from '../values/order.ts';
import { Engine } from './engine.ts';

/** A row with the place of the document that it comes from: ties go by it. */
interface Placed {
  readonly row: JsonObject;
  readonly at: number;
}

const context = makeContext({}, '2026-02-03T04:05:06.789Z');
const value = (expression: Parameters<typeof compileValue>[0], row: Json): Value => compileValue(expression)(row, context);
const put = (row: JsonObject, [name, ...rest]: readonly string[], to: Value): JsonObject => {
  const copy = { ...row };
  if (rest.length > 0) copy[name] = put((copy[name] ?? {}) as JsonObject, rest, to);
  else if (to === undefined) delete copy[name];
  else copy[name] = to;
  return copy;
};
const isEmpty = (one: Value): boolean => one === undefined || one === null;

function compareKeys(keys: readonly OrderKey[], a: Json, b: Json): number {
  for (const { expression, direction, nulls } of keys) {
    const [x, y] = [value(expression, a), value(expression, b)];
    if (isEmpty(x) || isEmpty(y)) {
      if (isEmpty(x) !== isEmpty(y)) return isEmpty(x) === (nulls === 'first') ? -1 : 1;
      continue;
    }
    const order = compareValues(x as Json, y as Json) * (direction === 'desc' ? -1 : 1);
    if (order !== 0) return order;
  }
  return 0;
}

/** What a stage means, one row after another, with no thought of cost. */
function meaning(stage: Stage, rows: readonly Placed[], data: Readonly<Record<string, readonly JsonObject[]>>): Placed[] {
  if (stage.kind === 'where') return rows.filter(({ row }) => compileTest(stage.condition)(row, row, context));
  if (stage.kind === 'compute') {
    return rows.map(({ row, at }) => ({
      at,
      row: stage.assignments.reduce((made, { target, expression }) => put(made, target, value(expression, made)), row),
    }));
  }
  if (stage.kind === 'select') {
    return rows.map(({ row, at }) => ({
      at,
      row: stage.items.reduce<JsonObject>(
        (made, { target, expression }) => (value(expression, row) === undefined ? made : put(made, target, value(expression, row))),
        {},
      ),
    }));
  }
  if (stage.kind === 'limit') return rows.slice(0, Number(value(stage.count, {})));
  if (stage.kind === 'offset') return rows.slice(Number(value(stage.count, {})));
  if (stage.kind === 'order')
    return rows
      .map((one, i) => ({ one, i }))
      .sort((a, b) => compareKeys(stage.keys, a.one.row, b.one.row) || a.one.at - b.one.at || a.i - b.i)
      .map(({ one }) => one);
  if (stage.kind === 'unnest') {
    return rows.flatMap(({ row, at }) => {
      const found = value(stage.path, row);
      const elements = Array.isArray(found) ? found : isEmpty(found) ? [] : [found as Json];
      if (elements.length === 0 && stage.keepEmpty) return [{ at, row: put(row, stage.target.names, undefined) }];
      return elements.map((element, i) => ({
        at,
        row: stage.position ? put(put(row, stage.target.names, element), stage.position.names, i) : put(row, stage.target.names, element),
      }));
    });
  }
  if (isJoin(stage)) {
    const test = compilePair(stage.condition, partnerName(stage));
    // Missing and null match nothing: the generated joins are on `k` of both sides.
    return rows.flatMap(({ row, at }) => {
      const partners = data[stage.source].filter((partner) => !isEmpty(partner.k) && test(row, partner, context));
      if (stage.kind === 'gatherJoin') return [{ at, row: put(row, stage.target.names, partners) }];
      if (partners.length === 0) return stage.kind === 'leftJoin' ? [{ at, row: put(row, stage.target.names, undefined) }] : [];
      return partners.map((partner) => ({ at, row: put(row, stage.target.names, partner) }));
    });
  }
  if (stage.kind === 'group' || stage.kind === 'groupAll') {
    const keys = stage.kind === 'group' ? stage.keys : [];
    const groups = new Map<string, JsonObject[]>(stage.kind === 'groupAll' ? [['', []]] : []);
    for (const { row } of rows) {
      const key = keys.map(({ expression }) => keyOfAll([value(expression, row)])).join('\n');
      groups.set(key, [...(groups.get(key) ?? []), row]);
    }
    return [...groups.values()].map((members, at) => {
      let made: JsonObject = {};
      for (const { target, expression } of keys)
        if (value(expression, members[0]) !== undefined) made = put(made, target, value(expression, members[0]));
      for (const { target, aggregate, argument, where } of stage.measures) {
        const counted = members.filter((row) => where === undefined || compileTest(where)(row, row, context));
        const values = counted.flatMap((row) =>
          argument === undefined || isEmpty(value(argument, row)) ? [] : [value(argument, row) as Json],
        );
        const numbers = values.filter((one) => typeof one === 'number');
        if (aggregate === 'count') made = put(made, target, counted.length);
        else if (aggregate === 'collect') made = put(made, target, values);
        else if (aggregate === 'sum' && numbers.length > 0)
          made = put(
            made,
            target,
            numbers.reduce((a, b) => a + b, 0),
          );
        else if (aggregate === 'max' && values.length > 0)
          made = put(
            made,
            target,
            values.reduce((a, b) => (compareValues(b, a) > 0 ? b : a)),
          );
      }
      return { at, row: made };
    });
  }
  if (isRank(stage)) {
    const partition = (row: Json) => stage.partition.map((key) => keyOfAll([value(key, row)])).join('\n');
    return rows.map((one, i) => {
      const before = rows.filter((other) => partition(other.row) === partition(one.row) && compareKeys(stage.keys, other.row, one.row) < 0);
      const ties = rows.filter(
        (other, k) =>
          partition(other.row) === partition(one.row) &&
          compareKeys(stage.keys, other.row, one.row) === 0 &&
          (other.at < one.at || (other.at === one.at && k < i)),
      );
      const better = new Set(
        before.map(({ row }) =>
          stage.keys.map(({ expression }) => (isEmpty(value(expression, row)) ? 'empty' : keyOfAll([value(expression, row)]))).join('\n'),
        ),
      );
      const place =
        stage.kind === 'rank' ? before.length + 1 : stage.kind === 'denseRank' ? better.size + 1 : before.length + ties.length + 1;
      return { at: one.at, row: put(one.row, stage.target.names, place) };
    });
  }
  throw new Error(stage.kind);
}

function reference(pipeline: string, data: Readonly<Record<string, readonly JsonObject[]>>): Json[] {
  const [, ...stages] = usualSurface.parse(pipeline).stages.map(({ stage }) => stage as Stage);
  return stages
    .reduce<readonly Placed[]>(
      (rows, stage) => meaning(stage, rows, data),
      data.c.map((row, at) => ({ row, at })),
    )
    .map(({ row }) => row);
}

async function ask(
  pipeline: string,
  data: Readonly<Record<string, readonly JsonObject[]>>,
  indexed: boolean,
  withoutRules: readonly RuleName[] = [],
): Promise<readonly Json[]> {
  const engine = new Engine({ pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') });
  for (const [name, documents] of Object.entries(data)) {
    const collection = engine.define(name, '@.id');
    documents.forEach((document, position) => collection.store.put(position, document));
    if (indexed)
      for (const keys of [['@.k'], ['@.a', '@.k desc'], ['@.list[*]']])
        await collection.buildIndex(readDefinition({ keys }), () => Promise.resolve());
  }
  const answer = await engine.query({ pipeline, pageSize: 1_000, withoutRules });
  if (!answer.ok) throw new Error(`${pipeline}\n${answer.problem.message}`);
  return answer.value.documents;
}

const scalar = fc.oneof(
  { weight: 6, arbitrary: fc.integer({ min: 0, max: 3 }) },
  { weight: 1, arbitrary: fc.constantFrom(null, 'x', 'y') },
);
const documents = (prefix: string) =>
  fc
    .array(
      fc.record(
        { a: scalar, k: scalar, list: fc.array(fc.record({ f: scalar, g: scalar }, { requiredKeys: [] }), { maxLength: 3 }) },
        { requiredKeys: [] },
      ),
      { maxLength: 8 },
    )
    .map((list) => list.map((one, i) => ({ id: `${prefix}${i}`, ...one }) as JsonObject));

const field = fc.constantFrom('@.a', '@.k', '@.e.f', '@.p.a', '@.t');
const condition = fc.oneof(
  fc.tuple(field, fc.constantFrom('==', '!=', '>', '<='), fc.constantFrom('0', '1', '2', '"x"', 'null')).map((parts) => parts.join(' ')),
  field.map((path) => `exists(${path})`),
  fc.tuple(field, field).map(([x, y]) => `${x} == ${y} || ${x} == 1`),
  // Conditions that ask for nodes, and ones that look out of a filter at the row.
  fc.tuple(fc.constantFrom('', '!'), field).map((parts) => parts.join('')),
  fc.tuple(field, fc.constantFrom('1', '2')).map(([path, count]) => `count(${path}) == ${count} || ${path} in [0, 2]`),
  fc.tuple(fc.constantFrom('@.list', '@.e', '@.p'), field).map(([list, path]) => `${list}[?@.f == $${path.slice(1)}]`),
  field.map((path) => `any(@.list, @.g != $${path.slice(1)})`),
);
const computed = fc.oneof(
  field.map((path) => `coalesce(${path}, 0)`),
  field,
  fc.constantFrom('@.list[*].f', '@.list[0]', '@.a == 1', '@.e.g', '@.a + 1', 'value(@.list[*].g)', '[@.a, @.k]'),
);
const where = fc.array(condition, { minLength: 1, maxLength: 2 }).map((some) => `where ${some.map((one) => `(${one})`).join(' && ')}`);
const compute = fc.tuple(fc.constantFrom('t', 'a', 'u'), computed).map((parts) => `compute ${parts.join(' = ')}`);
const group = fc.constantFrom(
  'group by @.a measure t = count()',
  'group by @.a, @.e.f as k measure t = sum(@.k), u = collect(@.e.f)',
  'group by @.k measure t = max(@.e.f) where @.a != 1',
  'group by @.t as k measure a = count() where @.t, u = collect(@.t)',
  'group all measure t = count(), a = max(@.k)',
);
const stage = fc.oneof(
  where,
  compute,
  group,
  fc.constantFrom('unnest @.list as e', 'unnest @.list as e keep empty', 'unnest @.a as e with position as t'),
  fc
    .tuple(
      fc.constantFrom('join', 'left join', 'gather join'),
      fc.constantFrom('@.k', '@.a', '@.e.f'),
      fc.constantFrom('', ' && p.a != 1', ' && p.id != @.id'),
    )
    .map(([kind, key, more]) => `${kind} d as p on p.k == ${key}${more}`),
  fc.tuple(field, fc.constantFrom('', ' desc'), fc.constantFrom('', ' nulls first')).map((parts) => `order by ${parts.join('')}`),
  fc
    .tuple(fc.constantFrom('rank', 'dense rank', 'row number'), fc.constantFrom('', ' partition by @.a'), field)
    .map(([kind, partition, path]) => `${kind} as t${partition} order by ${path}`),
  fc
    .tuple(fc.constantFrom('rank', 'row number'), field)
    .map(([kind, path]) => `${kind} as t partition by @.a order by ${path} desc\nwhere @.t <= 2`),
  fc.constantFrom('select @.id, @.a, @.k, @.list', 'select @.a, @.k as t, @.e', 'limit 4', 'offset 1', 'limit 2'),
);
/** Conditions on rows that have lost or renamed what they had: nothing but what is there by then may be looked at. */
const afterNaming = fc.tuple(
  fc.oneof(compute, fc.constant('rank as t order by @.k')),
  fc.constantFrom('select @.id, @.a, @.list', 'select @.k as a, @.list', 'group by @.list, @.k as a', 'group by @.a as t, @.list measure k = count()', 'group all measure t = count()'), // prettier-ignore
  fc.oneof(where, fc.tuple(fc.constantFrom('@.list[?@.f == $', 'any(@.list, @.f != $'), field).map(([begin, path]) => `where ${begin}${path.slice(1)}${begin.startsWith('any') ? ')' : ']'}`)), // prettier-ignore
);
/** What is done as one step where nothing looks at the rows between. */
const unnestedGroup = fc
  .tuple(
    fc.constantFrom('unnest @.list as e', 'unnest @.list as e keep empty'),
    fc.array(fc.oneof(where, compute), { maxLength: 4 }),
    group,
  )
  .map(([unnest, between, last]) => [unnest, ...between, last]);
const pipelines = fc
  .oneof(
    { weight: 3, arbitrary: fc.array(stage, { minLength: 1, maxLength: 6 }) },
    { weight: 1, arbitrary: unnestedGroup },
    { weight: 1, arbitrary: afterNaming },
  )
  .map((stages) => ['from c', ...stages].join('\n'));

test('generated pipelines give what their stages mean, row for row; with indexes and without', async () => {
  await fc.assert(
    fc.asyncProperty(pipelines, documents('c'), documents('d'), async (pipeline, c, d) => {
      const expected = reference(pipeline, { c, d });
      expect(await ask(pipeline, { c, d }, false)).toEqual(expected);
      expect(await ask(pipeline, { c, d }, true)).toEqual(expected);
    }),
    { numRuns: 1_200 },
  );
});

test.each<RuleName>([
  'where moved up',
  'order moved up',
  'limit moved up',
  'order dropped',
  'offset counted',
  'unused fields dropped',
  'used fields alone',
  'unnest joined to group',
  'index-only',
])('%s changes no answer', async (rule) => {
  await fc.assert(
    fc.asyncProperty(pipelines, documents('c'), documents('d'), async (pipeline, c, d) => {
      expect(await ask(pipeline, { c, d }, true)).toEqual(await ask(pipeline, { c, d }, true, [rule]));
    }),
    { numRuns: 300 },
  );
});
