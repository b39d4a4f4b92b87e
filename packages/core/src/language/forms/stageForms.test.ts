import fc from 'fast-check';
import { aggregateNames } from '../functions/aggregates.ts';
import { parsePipeline } from '../surfaces/notation/parsePipeline.ts';
import type { Stage } from '../stages/stage.ts';
import { readGroup, takenBy, writeGroup, type GroupForm } from './groupForm.ts';
import { isPairCondition, leftOutOf, readJoin, withPartnerName, writeJoin, writeLeftOut, type JoinForm } from './joinForm.ts';
import { ownName, readAssignments, readFields, writeAssignments, writeFields, type NamedRow } from './namedRows.ts';
import { readOrderKeys, writeOrderKeys, type OrderRow } from './orderForm.ts';
import { readBest, writeBest, type BestForm } from './bestForm.ts';
import { readRank, writeRank, type RankForm } from './rankForm.ts';
import { readUnnest, writeUnnest, type UnnestForm } from './unnestForm.ts';

const path = fc.constantFrom('@.a', '@.b.c', "@['odd name']", '@.list[0].x');
const field = fc.constantFrom('@.a', '@.b.c', "@['odd name'].d");
const value = fc.oneof(path, fc.constantFrom('@.a + 1', 'fold(@.name)', 'if(@.a > 1, "x", null)', 'avg_of(@.list[*].score)', '-@.n'));
const condition = fc.constantFrom('@.a == 1', '@.a > 1 && @.b', '!@.c', '@.a == 1 || @.b == 2', 'contains(@.t, ") where ")');
const name = fc.constantFrom('x', 'x.y', '"odd name"', 'long_name');
const some = <T>(one: fc.Arbitrary<T>) => fc.array(one, { minLength: 1, maxLength: 4 });
const order: fc.Arbitrary<OrderRow> = fc.record({
  text: value,
  direction: fc.constantFrom('asc' as const, 'desc' as const),
  nulls: fc.constantFrom('first' as const, 'last' as const),
});

/** Each kind of form, how it is made, and how it is read back from the stage that its text is. */
function back<F, S extends Stage>(made: fc.Arbitrary<F>, write: (form: F) => string | undefined, read: (stage: S) => F) {
  return () =>
    fc.assert(
      fc.property(made, (form) => {
        const text = write(form);
        const { stages } = parsePipeline(`from c\n${text}`);
        expect(stages).toHaveLength(2);
        expect(stages[1].stage).toBeDefined();
        expect(read(stages[1].stage as S)).toEqual(form);
      }),
      { numRuns: 300 },
    );
}

describe('form → text → form is the identity', () => {
  const named: fc.Arbitrary<NamedRow> = fc.oneof(
    field.map((text) => ({ text, name: undefined })),
    fc.record({ text: value, name }),
  );
  test('of select', back(fc.record({ kind: fc.constant('select' as const), rows: some(named) }), writeFields, readFields));
  const plain = some(fc.oneof(field, fc.constant('@.list[*].x')).map((text) => ({ text, name: undefined })));
  test('of omit', back(fc.record({ kind: fc.constant('omit' as const), rows: plain }), writeFields, readFields));
  test('of compute', back(some(fc.record({ name, text: fc.oneof(value, condition) })), writeAssignments, readAssignments));
  test(
    'of order by',
    back(
      some(order),
      (rows) => `order by ${writeOrderKeys(rows)}`,
      (stage: Stage & { kind: 'order' }) => readOrderKeys(stage.keys),
    ),
  );
  const group: fc.Arbitrary<GroupForm> = fc
    .record({
      keys: fc.array(
        fc.oneof(
          field.map((text) => ({ text, name: ownName(text) ?? '' })),
          fc.record({ text: value, name }),
        ),
        { maxLength: 3 },
      ),
      measures: fc.array(
        fc.record({ name, aggregate: fc.constantFrom(...aggregateNames), value, condition, where: fc.oneof(fc.constant(''), condition) }),
        { maxLength: 3 },
      ),
    })
    .filter(({ keys, measures }) => keys.length + measures.length > 0)
    .map(({ keys, measures }) => ({
      keys,
      measures: measures.map(({ name: called, aggregate, value: given, condition: tested, where }) => {
        const takes = takenBy(aggregate);
        const argument = takes === 'nothing' ? '' : takes === 'condition' ? tested : given;
        return { name: called, aggregate, argument, percentage: takes === 'value and percentage' ? '95' : '', where };
      }),
    }));
  test('of group', back(group, writeGroup, readGroup));
  const rank: fc.Arbitrary<RankForm> = fc.record({
    kind: fc.constantFrom('rank' as const, 'denseRank' as const, 'rowNumber' as const),
    name,
    partition: fc.array(value, { maxLength: 2 }),
    keys: some(order),
  });
  test('of the ranks', back(rank, writeRank, readRank));
  const number = fc.nat(9).map(String);
  const best: fc.Arbitrary<BestForm> = fc.record({
    count: number,
    scores: fc.array(fc.record({ score: fc.constantFrom('@.severity', 'relevance(@.text, :words, "english")', '-@.id', '@.a + 1'), weight: fc.oneof(fc.constant(''), number) }), { minLength: 1, maxLength: 3 }),
    name: fc.constantFrom('', 'score', 'a.b'),
    depth: fc.oneof(fc.constant(''), number),
    effort: fc.oneof(fc.constant(''), number),
  }); // prettier-ignore
  test('of the best', back(best, writeBest, readBest));
  const unnest: fc.Arbitrary<UnnestForm> = fc.record({
    path,
    name,
    position: fc.option(fc.constantFrom('at', 'x.at'), { nil: undefined }),
    keepEmpty: fc.boolean(),
  });
  test('of unnest', back(unnest, writeUnnest, readUnnest));
  const pair = fc.constantFrom('hut.id == @.hutId', 'hut.n > 3', '(hut.a == 1 || @.b == 2)', '@.at in hut.list', "hut['odd name'] == @.x");
  const join: fc.Arbitrary<JoinForm> = fc.record({
    kind: fc.constantFrom('join' as const, 'leftJoin' as const, 'gatherJoin' as const),
    source: fc.constant('huts'),
    name: fc.constantFrom('hut', 'trip.hut'),
    conditions: some(pair),
  });
  test('of the joins', back(join, writeJoin, readJoin));
  test('of a join whose partner is called otherwise and back', () => {
    fc.assert(
      fc.property(join, (form) => {
        expect(withPartnerName(withPartnerName(form, 'lodge'), form.name)).toEqual(form);
        expect(writeJoin(withPartnerName(form, 'lodge'))).not.toContain('hut.');
      }),
    );
  });
});

test.each([
  ['hut.id == @.hutId', 'lodge.id == @.hutId'],
  ['hut.kind == "hut.old" && hut["odd name"] > 3', 'lodge.kind == "hut.old" && lodge["odd name"] > 3'],
  ["@.hut.id == hut.id && @['hut'].id != 'say: hut.id'", "@.hut.id == lodge.id && @['hut'].id != 'say: hut.id'"],
  ['$..hut.id == hut..id', '$..hut.id == lodge..id'],
  ['shut.id == hut2.id && éhut.id == hut.id', 'shut.id == hut2.id && éhut.id == lodge.id'],
  ['length(hut.tags[?@.hut.id == 1]) > :hut', 'length(lodge.tags[?@.hut.id == 1]) > :hut'],
])('where the partner is called otherwise, %s is %s', (condition, other) => {
  const form: JoinForm = { kind: 'join', source: 'huts', name: 'hut', conditions: [condition] };
  expect(withPartnerName(form, 'lodge').conditions).toEqual([other]);
});

test('a pair that is half typed is not taken', () => {
  const { stages } = parsePipeline('from bookings\njoin huts as hut on hut.id == @.hutId');
  const stage = stages[1].stage as Stage & { kind: 'join' };
  expect(isPairCondition('hut.id == @.hutId', stage)).toBe(true);
  expect(isPairCondition('hut.id ==', stage)).toBe(false);
});

test.each(['join huts as hut', 'left join huts as trip.hut', 'gather join huts as huts'])(
  'fields of the partner that are not brought over, after %s',
  (join) => {
    const partner = join.split('.').at(-1)?.split(' ').at(-1);
    const fields = ['id', 'name', 'odd name'];
    const stageOf = (next: string) =>
      parsePipeline(`from bookings\n${join} on ${partner}.id == @.hutId\n${next}`).stages.map(({ stage }) => stage);
    const made = stageOf('')[1] as Stage & { kind: 'join' };
    fc.assert(
      fc.property(fc.shuffledSubarray(fields, { minLength: 1 }), (out) => {
        expect(leftOutOf(made, stageOf(writeLeftOut(made, out) ?? '')[2], fields)).toEqual(out);
      }),
    );
    expect(writeLeftOut(made, [])).toBeUndefined();
    expect(leftOutOf(made, stageOf('omit @.other')[2], fields)).toBeUndefined();
    expect(leftOutOf(made, stageOf('limit 3')[2], fields)).toBeUndefined();
  },
);

test('what no text can say is not written', () => {
  expect(writeFields({ kind: 'select', rows: [] })).toBeUndefined();
  expect(writeAssignments([])).toBeUndefined();
  expect(writeGroup({ keys: [], measures: [] })).toBeUndefined();
  expect(writeOrderKeys([{ text: '@.a +', direction: 'asc', nulls: 'last' }])).toBeUndefined();
});
