import fc from 'fast-check';
import { readIndex } from '../indexes/kinds.ts';
import { Engine } from './engine.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };
const words = fc.array(fc.constantFrom('lynx', 'ermine', 'bridge', 'the', 'ford'), { maxLength: 6 }).map((some) => some.join(' '));
const vector = fc.array(fc.integer({ min: -3, max: 3 }), { minLength: 3, maxLength: 3 });
const documentOf = fc.record({ t: fc.option(words, { nil: undefined }), v: fc.option(vector, { nil: undefined }), n: fc.nat(2) });

async function indexed(documents: readonly object[]) {
  const engine = new Engine(host);
  const collection = engine.define('c', '@.id');
  documents.forEach((one, id) => collection.store.put(id, { id, ...JSON.parse(JSON.stringify(one)) }));
  await collection.buildIndex(readIndex({ name: 'words', kind: 'text', keys: ['@.t'], language: 'english' }), host.pause);
  await collection.buildIndex(readIndex({ name: 'vectors', kind: 'vector', keys: ['@.v'], links: 4, buildEffort: 10 }), host.pause);
  return { engine, collection };
} // prettier-ignore

const byWords = 'relevance(@.t, "lynx bridge", "english")';
const byMeaning = 'cosine_similarity(@.v, :q)';
const questions = [
  `best 5 by ${byWords}, ${byMeaning} as s`,
  `where @.n > 0\nbest 3 by ${byWords} weight 2, ${byMeaning} as s depth 4`,
  `best 4 by ${byMeaning}, ${byWords} weight 0.5, ${byMeaning} as s depth 2\nselect @.id, @.s`,
  `best 0 by ${byWords}, ${byMeaning}`,
];

test('rankings from indexes fuse to what a scan fuses to, in the same order and to the last digit', async () => {
  let used = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(documentOf, { maxLength: 30 }),
      fc.array(fc.tuple(fc.nat(32), fc.option(documentOf, { nil: undefined })), { maxLength: 6 }),
      vector,
      async (documents, changes, q) => {
        const { engine, collection } = await indexed(documents);
        for (const [position, one] of changes) await collection.apply([{ position, document: one && { id: position, ...JSON.parse(JSON.stringify(one)) } }]);
        for (const stages of questions) {
          const ask = (more: object) => engine.query({ pipeline: `from c\n${stages}`, parameters: { q }, ...more });
          const [scanned, insisted] = await Promise.all([ask({ ignoreIndexes: ['vectors', 'words'] }), ask({ useIndex: ['vectors', 'words'] })]);
          expect({ stages, rows: insisted.ok ? insisted.value.documents : insisted.problem }).toEqual({ stages, rows: scanned.ok && scanned.value.documents });
          if (insisted.ok && insisted.value.plan.inputs.length === 0 && insisted.value.plan.step === 'fusion') used++;
        }
      },
    ),
    { numRuns: 150 },
  );
  expect(used).toBeGreaterThan(200);
}); // prettier-ignore

test('what no index ranks is not read, the plan names both, and an effort makes it approximate', async () => {
  const many = Array.from({ length: 5_000 }, (_, i) => ({ t: i % 50 === 0 ? `lynx ${i}` : `ford ${i}`, v: [Math.sin(i), Math.cos(i), Math.sin(i * 1.7)], n: i % 3 }));
  const { engine } = await indexed(many);
  const ask = async (effort: string) => {
    const answer = await engine.query({ pipeline: `from c\nbest 10 by ${byWords}, ${byMeaning} as s${effort}\nselect @.id`, parameters: { q: [1, 0, 1] } });
    if (!answer.ok) throw new Error(answer.problem.message);
    return answer.value;
  };
  const exact = await ask('');
  const about = await ask(' effort 20');
  expect(about.plan.inputs[0]).toMatchObject({ step: 'fusion', indexes: ['words', 'vectors'] });
  expect(about.plan.inputs[0]!.detail).toContain('vectors by cosine_similarity(@.v, :q), about: of 100 candidates');
  expect(about.cost.documentsRead).toBeLessThanOrEqual(200);
  expect([exact.approximate, about.approximate, about.notes]).toEqual([null, { effort: 100 }, []]);
  const told = exact.weighed.filter(({ chosen }) => chosen).map(({ index, reason }) => [index, /its ([\d,]+) entries/.exec(reason)?.[1]]);
  expect(told).toEqual([['words', '100'], ['vectors', '5,000']]);
  // Among so few all are found.
  expect(about.documents).toEqual(exact.documents);
}); // prettier-ignore
