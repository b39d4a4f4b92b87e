import { readDefinition } from '../indexes/definition.ts';
import type { Json, JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };
const never = () => false;

function engineOf(documents: readonly JsonObject[]): Engine {
  const engine = new Engine(host);
  const collection = engine.define('c', '@.id');
  documents.forEach((document, position) => collection.store.put(position, document));
  return engine;
}

async function become(document: JsonObject, steps: string): Promise<Json | undefined> {
  const answer = await engineOf([document]).previewChange({ change: `from c\n${steps}` }, never);
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value.sample.length === 0 ? 'as it was' : answer.value.sample[0].after;
}

const hut: JsonObject = {
  id: 'h1',
  name: 'Tarn',
  bunks: 8,
  fee: { night: 40 },
  fittings: ['stove', 'radio'],
  nights: [{ fee: 1, n: 2 }, { fee: 3 }],
};

describe('what becomes of a document', () => {
  test.each<[string, Json]>([
    ['set @.bunks = @.bunks + 1', { ...hut, bunks: 9 }],
    ['set @.bunks = @.bunks + 1, @.fee.night = @.bunks', { ...hut, bunks: 9, fee: { night: 8 } }],
    ['set @.bunks = 1\nset @.fee.night = @.bunks', { ...hut, bunks: 1, fee: { night: 8 } }],
    ['set @.fee.reviewed = date_trunc("day", now())', { ...hut, fee: { night: 40, reviewed: '2026-02-03T00:00:00.000Z' } }],
    ['set @.a.b.c = true', { ...hut, a: { b: { c: true } } }],
    ["set @['odd name'] = 1", { ...hut, 'odd name': 1 }],
    ['set @.__proto__ = 1', JSON.parse(JSON.stringify(hut).replace(/}$/, ',"__proto__":1}')) as Json],
    ['set @.nights[0].fee = 9', { ...hut, nights: [{ fee: 9, n: 2 }, { fee: 3 }] }],
    ['set @.nights[-1].fee = 9', { ...hut, nights: [{ fee: 1, n: 2 }, { fee: 9 }] }],
    ['set @.nights[*].fee = 0', { ...hut, nights: [{ fee: 0, n: 2 }, { fee: 0 }] }],
    ['set @.nights[7].fee = 0', 'as it was'],
    ['set @.name.first = "x"', 'as it was'],
    ['set @.bunks = 8', 'as it was'],
    ['set @.bunks = @.nothing', { id: 'h1', name: 'Tarn', fee: hut.fee, fittings: hut.fittings, nights: hut.nights }],
    [
      'remove @.bunks, @.nights[*].fee, @.nothing',
      { id: 'h1', name: 'Tarn', fee: hut.fee, fittings: hut.fittings, nights: [{ n: 2 }, {}] },
    ],
    ['remove @.fittings[0]', { ...hut, fittings: ['radio'] }],
    ['append "map" to @.fittings', { ...hut, fittings: ['stove', 'radio', 'map'] }],
    ['append @.bunks to @.log.bunks', { ...hut, log: { bunks: [8] } }],
    ['append 1 to @.name', 'as it was'],
    ['append @.nothing to @.fittings', 'as it was'],
    ['append 1 to @.l\nappend 2 to @.l', { ...hut, l: [1, 2] }],
    ['take "stove" from @.fittings', { ...hut, fittings: ['radio'] }],
    ['take {fee: 3} from @.nights', { ...hut, nights: [{ fee: 1, n: 2 }] }],
    ['take "sauna" from @.fittings', 'as it was'],
    ['replace with {name: @.name, beds: @.bunks}', { id: 'h1', name: 'Tarn', beds: 8 }],
    ['replace with 4', 'as it was'],
  ])('%s', async (steps, expected) => expect(await become(hut, steps)).toEqual(expected));
});

test('deleting, and what is counted', async () => {
  const engine = engineOf([hut, { id: 'h2', bunks: '9' }, { id: 'h3', bunks: 4 }]);
  const preview = async (change: string) => {
    const answer = await engine.previewChange({ change }, never);
    if (!answer.ok) throw new Error(answer.problem.message);
    return answer.value;
  };
  expect(await preview('from c\nwhere @.bunks > 5\ndelete')).toMatchObject({
    matched: 1,
    changed: 1,
    repeats: 0,
    sample: [{ identity: 'h1', after: null }],
  });
  const rise = await preview('from c\nwhere @.bunks > 3\nset @.bunks = @.bunks + 1');
  expect([rise.matched, rise.changed, rise.repeats]).toEqual([2, 2, 2]);
  const once = await preview('from c\nwhere @.bunks <= 4\nset @.bunks = @.bunks + 1');
  expect([once.matched, once.changed, once.repeats]).toEqual([1, 1, 0]);
  const all = await preview('from c\nset @.bunks = @.bunks * 2');
  expect(all.warnings.map(({ code }) => code)).toEqual(['changes-all']);
  expect(all.notes.map(({ message }) => message)[0]).toContain('@.bunks is text in 1 row');
  expect(engine.collections.get('c')?.store.documents[0]).toEqual(hut);
});

test.each<[string, string]>([
  ['from c\nwhere @.id', 'no-step'],
  ['from c\nset @.id = 4', 'identity-changed'],
  ['from c\nremove @.id', 'identity-changed'],
  ['from c\nlimit 4\nset @.a = 1', 'not-in-change'],
  ['from c\nset @.a = 1\nwhere @.a', 'where-after-step'],
  ['from c\ndelete\nset @.a = 1', 'step-alone'],
  ['from c\nset @..a = 1', 'not-a-target'],
  ['from c\nappend 1 to @.a[*]', 'not-a-target'],
  ['from c\nset @.a = :p', 'unbound-parameter'],
  ['from d\ndelete', 'unknown-collection'],
])('%s is refused: %s', async (change, code) => {
  const answer = await engineOf([hut]).previewChange({ change }, never);
  expect(
    answer.ok ? [] : answer.problem.kind === 'pipeline' ? answer.problem.diagnostics.map((one) => one.code) : [answer.problem.message],
  ).toContain(code);
});

test('a step of a change in a pipeline, and a document that would get another identity, are refused', async () => {
  const query = await engineOf([hut]).query({ pipeline: 'from c\nset @.a = 1' });
  expect(query.ok ? '' : query.problem.message).toContain('set changes documents');
  const replaced = await engineOf([hut]).previewChange({ change: 'from c\nreplace with {id: "other"}' }, never);
  expect(replaced.ok ? '' : replaced.problem.message).toContain('would get the identity "other"');
});

describe('the plan of a change', () => {
  const many = Array.from({ length: 3_000 }, (_, id): JsonObject => ({ id, size: id % 300, n: 1 }));
  const change = 'from c\nwhere @.size == 7\nset @.n = @.n + 1\nappend @.size to @.sizes';

  test('without a run: how the documents are found, what an index would do, and what becomes of them', async () => {
    const engine = engineOf(many);
    const plain = engine.plan({ pipeline: change });
    if (!plain.ok) throw new Error(plain.problem.message);
    const { plan, weighed, suggestions } = plain.value;
    expect(plan).toMatchObject({
      step: 'change',
      detail: 'set @.n = @.n + 1; append @.size to @.sizes',
      lines: [3, 4],
      rows: null,
      inputs: [{ step: 'full scan', lines: [1, 2], rows: null }],
    });
    expect(weighed.map(({ way, chosen }) => [way, chosen])).toContainEqual(['full scan', true]);
    expect(suggestions.map(({ keys }) => keys)).toEqual([['@.size']]);
    const imagined = engine.plan({ pipeline: change, whatIf: [{ keys: ['@.size'] }] });
    expect(imagined).toMatchObject({ ok: true, value: { plan: { step: 'change', inputs: [{ step: 'index lookup', index: 'size' }] } } });
    await engine.collections.get('c')?.buildIndex(readDefinition({ keys: ['@.size'] }), host.pause);
    expect(engine.plan({ pipeline: change })).toMatchObject({ ok: true, value: { plan: { inputs: [{ index: 'size' }] } } });
    expect(engine.plan({ pipeline: change, ignoreIndexes: ['size'] })).toMatchObject({
      ok: true,
      value: { plan: { inputs: [{ step: 'full scan' }] } },
    });
    // Nothing was changed by planning.
    expect(engine.collections.get('c')?.store.documents[7]).toEqual(many[7]);
  });

  test('of a preview: how many documents were found, and how many would change', async () => {
    const answer = await engineOf(many).previewChange({ change: 'from c\nwhere @.size < 3\nset @.n = @.size' }, never);
    expect(answer).toMatchObject({
      ok: true,
      value: { matched: 30, changed: 20, plan: { step: 'change', rows: 20, lines: [3], inputs: [{ rows: 30, documentsRead: 3_000 }] } },
    });
  });

  test.each([
    ['an unknown collection', 'from nowhere\nset @.a = 1', 'unknown-collection'],
    ['a parameter without a value', 'from c\nwhere @.size == :n\nset @.a = 1', 'unbound-parameter'],
    ['a stage that no change has', 'from c\norder by @.size\nset @.a = 1', 'not-in-change'],
  ])('is refused for %s', (_, pipeline, code) => {
    const answer = engineOf(many).plan({ pipeline });
    if (answer.ok || answer.problem.kind !== 'pipeline') throw new Error('it was to be refused');
    expect(answer.problem.diagnostics.map((one) => one.code)).toContain(code);
  });
});
