import type { Json } from '../values/json.ts';
import { Engine } from './engine.ts';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') };
const reports: readonly Record<string, Json>[] = [
  { id: 0, headline: 'Bridge out', text: 'The footbridge below the hut is gone. Use the ford.', severity: 0 },
  { id: 1, headline: 'Snow', text: 'Deep snow on the bridges near the pass, bridges everywhere', severity: 1 },
  { id: 2, headline: 'Ibex', text: 'Three ibex seen by the lake', severity: 2 },
  { id: 3, headline: '', text: 'bridge bridge bridge', severity: 0 },
  { id: 4, headline: null, text: ['a broken bridge', 'the path is fine'], severity: 1 },
  { id: 5, headline: 'Nothing', text: 7, severity: 2 },
  { id: 6, headline: 'Straße', text: 'Die Brücke über den Fluß; ÎLE d’été, ΟΔΟΣ', severity: 0 },
  { id: 7, text: '' },
];
async function asked(stages: string, parameters: Record<string, Json> = {}) {
  const engine = new Engine(host);
  const { store } = engine.define('reports', '@.id');
  reports.forEach((one, i) => store.put(i, one));
  engine.define('others', '@.id').store.put(0, { id: 0, text: 'bridge' });
  return engine.query({ pipeline: `from reports\n${stages}`, parameters });
}
async function rows(stages: string, parameters: Record<string, Json> = {}): Promise<readonly Json[]> {
  const answer = await asked(stages, parameters);
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value.documents;
}
const ids = async (stages: string, parameters: Record<string, Json> = {}) =>
  (await rows(stages, parameters)).map((row) => (row as { id: number }).id);

describe('mentions', () => {
  test.each<[string, number[]]>([
    ['mentions_any(@.text, "bridge", "english")', [1, 3, 4]],
    ['mentions_any(@.text, "bridge")', [3, 4]],
    ['mentions_any(@.text, "bridg*")', [1, 3, 4]],
    ['mentions_any(@.text, "*")', []],
    ['mentions_any(@.text, "")', []],
    ['mentions_any(@.text, "the of", "english")', []],
    ['mentions_any(@.text, "the")', [0, 1, 2, 4]],
    // A letter put in, left out or exchanged; two letters that have changed places are two.
    ['mentions_any(@.text, "brige~")', [3, 4]],
    ['mentions_any(@.text, "brridge~")', [3, 4]],
    ['mentions_any(@.text, "brigde~")', []],
    ['mentions_any(@.text, "footbrdige~")', [0]],
    ['mentions_any(@.text, "laKE")', [2]],
    ['mentions_any(@.headline, "strasse")', []],
    ['mentions_any(@.text, "brucke ile ete")', [6]],
    ['mentions_any(@.text, "οδος")', [6]],
    ['mentions_any(@.none, "bridge")', []],
    ['mentions_all([@.headline, @.text], "snow bridge", "english")', [1]],
    ['mentions_all([@.headline, @.text], "bridge ford", "english")', [0]],
    ['mentions_all(@.text, "broken path")', [4]],
    ['mentions_phrase(@.text, "broken bridge")', [4]],
    // Not from one element to the next.
    ['mentions_phrase(@.text, "bridge the path")', []],
    ['mentions_phrase(@.text, "snow on the bridge", "english")', [1]],
    ['mentions_phrase(@.text, "snow the bridge", "english")', []],
    ['mentions_phrase(@.text, "bridge bridge bridge bridge")', []],
    ['mentions_phrase(@.text, "bridge bridge")', [3]],
    ['!mentions_any(@.text, "bridge", "english") && @.severity == 0', [0, 6]],
    ['mentions_any(@.text[*], "path")', [4]],
  ])('%s', async (condition, expected) => {
    expect(await ids(`where ${condition}`)).toEqual(expected);
  });
  test('words may be a parameter; what is no text asks for nothing', async () => {
    expect(await ids('where mentions_any(@.text, :words)', { words: 'ibex' })).toEqual([2]);
    expect(await ids('where mentions_any(@.text, :words)', { words: 7 })).toEqual([]);
  });
});

/** BM25 written out once more, for one path and single words without a language. */
function bm25(words: readonly string[], of: (document: Record<string, Json>) => Json | undefined): (number | undefined)[] {
  const texts = reports.map((one) => {
    const value = of(one);
    return typeof value === 'string' ? [value] : Array.isArray(value) ? value.filter((text): text is string => typeof text === 'string') : []; // prettier-ignore
  });
  const cut = texts.map((some) => some.flatMap((text) => text.toLowerCase().match(/[a-z]+/g) ?? []));
  const having = texts.filter((some) => some.length > 0).length;
  const mean = cut.reduce((sum, one) => sum + one.length, 0) / having;
  return cut.map((own) => {
    const parts = words.map((word) => {
      const n = cut.filter((one) => one.includes(word)).length;
      const f = own.filter((one) => one === word).length;
      const idf = Math.log(1 + (having - n + 0.5) / (n + 0.5));
      return f === 0 ? undefined : (idf * f) / (f + 1.2 * (1 - 0.75 + (0.75 * own.length) / mean));
    });
    return parts.every((part) => part === undefined) ? undefined : parts.reduce<number>((sum, part) => sum + (part ?? 0), 0);
  });
}

describe('relevance', () => {
  test('is BM25 over the documents that have a text there', async () => {
    const ascii = (one: Record<string, Json>) => (one['id'] === 6 ? '' : one['text']);
    const expected = bm25(['bridge', 'path'], ascii);
    const found = await rows('compute score = relevance(@.text, "bridge path bridge")\nselect @.id, @.score');
    for (const [i, row] of found.entries()) {
      const { score } = row as { score?: number };
      // The one text that is not ASCII has other words than the plain count here, so that means differ a little.
      if (expected[i] === undefined) expect(score).toBeUndefined();
      else expect(Math.abs(score! - expected[i]!)).toBeLessThan(0.2);
    }
    expect(found.filter((row) => 'score' in (row as object)).map((row) => (row as { id: number }).id)).toEqual([3, 4]);
  });
  test('is the same whatever is kept before it, and weights are one for each path', async () => {
    const all = await rows('best 10 by relevance(@.text, "bridge", "english") as score\nselect @.id, @.score');
    const some = await rows('where @.severity == 1\nbest 10 by relevance(@.text, "bridge", "english") as score\nselect @.id, @.score');
    expect(some).toEqual(all.filter((row) => [1, 4].includes((row as { id: number }).id)));
    const plain = 'relevance(@.headline, "bridge", "english")';
    const [first] = await rows(
      `compute a = ${plain}, b = relevance([@.headline, @.text], "bridge", "english", [2, 1])\nwhere @.id == 0\nselect @.a, @.b`,
    );
    expect((first as { b: number }).b).toBe(2 * (first as { a: number }).a);
  });
  test.each([
    ['group by @.severity measure n = count()\ncompute s = relevance(@.n, "x")', '@.n'],
    ['compute text = "bridge"\nbest 2 by relevance(@.text, "bridge")', '@.text'],
    ['join others as o on o.id == @.id\nbest 2 by relevance(@.o.text, "bridge")', '@.o.text'],
    ['select @.id, @.headline as text\nbest 2 by relevance(@.text, "bridge")', '@.text'],
  ])('%s is refused, since the collection has no such field there', async (stages, path) => {
    const answer = await asked(stages);
    expect(answer.ok ? '' : answer.problem.message).toContain(`${path} `);
    expect(answer.ok ? '' : answer.problem.message).toContain('relevance weighs words by how rare they are');
  });
});

describe('best', () => {
  test('keeps the highest, ties in insertion order; what has no number goes', async () => {
    expect(await ids('best 4 by @.severity')).toEqual([2, 5, 1, 4]);
    expect(await ids('best 0 by @.severity')).toEqual([]);
    expect(await ids('order by @.id desc\nbest 3 by if(@.id < 6, 1, "x")')).toEqual([0, 1, 2]);
    expect(await ids('best 2 by -@.id as a.b\nwhere @.a.b == -1')).toEqual([1]);
  });
  test('fuses rankings by their places; one that is empty adds nothing', async () => {
    const fused = await rows('best 3 by @.severity weight 2, -@.id, relevance(@.text, "nowhere") as s\nselect @.id, @.s');
    // By severity 2, 5, 1, 4, 0 …; by -id 0, 1, 2 …
    expect(fused).toEqual([
      { id: 2, s: 2 / 61 + 1 / 63 },
      { id: 5, s: 2 / 62 + 1 / 66 },
      { id: 1, s: 2 / 63 + 1 / 62 },
    ].sort((a, b) => b.s - a.s)); // prettier-ignore
    expect(await ids('best 3 by @.severity, -@.id depth 1')).toEqual([0, 2]);
  });
  test('stands before joins, after computed fields, and inside views', async () => {
    const engine = new Engine(host);
    const { store } = engine.define('reports', '@.id');
    reports.forEach((one, i) => store.put(i, one));
    engine.setViews(new Map([['bridges', { pipeline: 'from reports\nbest 2 by relevance(@.text, "bridge", "english") as score' }]]));
    const answer = await engine.query({
      pipeline: 'from bridges\njoin reports as r on r.id == @.id\nselect @.id, @.r.headline as headline',
    });
    expect(answer.ok && answer.value.documents).toEqual([{ id: 3, headline: '' }, { id: 1, headline: 'Snow' }]); // prettier-ignore
    const within = await engine.query({ pipeline: 'from bridges\ncompute again = relevance(@.text, "bridge", "english")\nwhere @.again == @.score' }); // prettier-ignore
    expect(within.ok && within.value.rowsReturned).toBe(2);
  });
  test.each(['best 1.5 by @.id', 'best 3 by @.id effort 0', 'best 3 by @.id effort 10001', 'best 3 by @.id effort 2', 'best 3 by @.id depth @.id', 'best 3 by @.id, @.severity weight "x"', 'best 3 by @.tags[*]', 'best 3', 'best 2 by relevance("x", "bridge")', 'best 2 by relevance(@.text, @.id)', 'best 2 by relevance(@.text, "x", "klingon")'])('%s is refused', async (stages) => {
    expect((await asked(stages)).ok).toBe(false);
  }); // prettier-ignore
});

test('an excerpt shows the passage that has most of the words', async () => {
  const [row] = await rows('where @.id == 1\nselect excerpt([@.headline, @.text], "bridges pass", "english") as x, excerpt(@.text, "ibex") as none');
  expect(row).toEqual({ x: 'Deep snow on the ⟦bridges⟧ near the ⟦pass⟧, ⟦bridges⟧ everywhere' });
  const engine = new Engine(host);
  const long = `${'word '.repeat(100)}the old bridge is gone${' word'.repeat(100)}.`;
  engine.define('c', '@.id').store.put(0, { id: 0, text: long });
  const answer = await engine.query({ pipeline: 'from c\nselect excerpt(@.text, "bridge gone") as x' });
  const { x } = (answer.ok ? answer.value.documents[0] : {}) as { x: string };
  expect(x).toMatch(/^… .*the old ⟦bridge⟧ is ⟦gone⟧ word.* …$/);
  expect(x.split(' ').filter((one) => one !== '…')).toHaveLength(30);
}); // prettier-ignore

test.each<[string, Json | undefined]>([
  ['cosine_similarity([3, 4], [4, 3])', 24 / 25],
  ['cosine_similarity([0, 0], [1, 1])', undefined],
  ['dot_product([1, 2, 3], [4, 5, 6])', 32],
  ['dot_product([1, 2], [1, 2, 3])', undefined],
  ['dot_product([1, null], [1, 2])', undefined],
  ['euclidean_distance([1, 2], [4, 6])', 5],
  ['euclidean_distance([], [])', undefined],
  ['length(vector_of("a bridge"))', 64],
  ['round(dot_product(vector_of("a bridge"), vector_of("the bridges")), 3)', 1],
])('%s', async (expression, expected) => {
  expect((await rows(`where @.id == 0\nselect ${expression} as x`))[0]).toEqual(expected === undefined ? {} : { x: expected });
});
