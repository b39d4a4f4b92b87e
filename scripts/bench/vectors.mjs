/* Vectors: `npm run bench -- --vectors [documents]`. Against hnswlib (native code) with the same links and, in asking, at the same recall; and against a loop. */
import hnswlib from 'hnswlib-node';
import { Engine, readIndex } from '../../packages/core/dist/index.js';
import { network } from '../../demo/dist/network.js';
import { compare } from './compare.mjs';

const host = { pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date() };
const say = (line) => process.stdout.write(`${line}\n`);
const nf = new Intl.NumberFormat('en', { maximumFractionDigits: 3 });
const [links, buildEffort, best, questions] = [16, 200, 10, 200];
const guards = { documentsRead: 1e9, memoryBytes: 8e9, timeMs: 1e6 };

/** The hand-written loop: packed numbers, the best ten by insertion. */
function loopOver(vectors, dimensions) {
  const packed = new Float32Array(vectors.length * dimensions);
  vectors.forEach((vector, i) => packed.set(vector, i * dimensions));
  return (query) => {
    const asked = Float32Array.from(query);
    const found = [];
    for (let i = 0, at = 0; i < vectors.length; i++, at += dimensions) {
      let [s, t, u, v] = [0, 0, 0, 0];
      for (let d = 0; d < dimensions; d += 4) {
        s += packed[at + d] * asked[d];
        t += packed[at + d + 1] * asked[d + 1];
        u += packed[at + d + 2] * asked[d + 2];
        v += packed[at + d + 3] * asked[d + 3];
      }
      const score = s + t + u + v;
      if (found.length === best && score <= found[best - 1].score) continue;
      let place = found.length;
      while (place > 0 && found[place - 1].score < score) place--;
      found.splice(place, 0, { i, score });
      if (found.length > best) found.pop();
    }
    return found;
  };
}

const toLength1 = (vector) => {
  const length = Math.hypot(...vector);
  return vector.map((one) => one / length);
};

async function benchVectors(count) {
  const { document } = network(1).find(({ name }) => name === 'reports');
  const engine = new Engine(host);
  const collection = engine.define('reports', '@.id');
  const vectors = [];
  for (let i = 0; i < count; i++) {
    const { id, textVector } = document(i);
    vectors.push(textVector);
    collection.store.put(i, { id, textVector });
  }
  const dimensions = vectors[0].length;
  // What was learnt of the loop by asking others for a while stays.
  const definition = readIndex({ name: 'vectors', kind: 'vector', keys: ['@.textVector'], links, buildEffort });
  say(`\n${nf.format(count)} vectors of ${dimensions} numbers`);
  const started = performance.now();
  await collection.buildIndex(definition, host.pause);
  const ours = performance.now() - started;
  const other = new hnswlib.HierarchicalNSW('ip', dimensions);
  other.initIndex(count, links, buildEffort, 100);
  const from = performance.now();
  // Of length 1, so that its inner product is the cosine: the documents' own are rounded.
  vectors.forEach((vector, i) => other.addPoint(toLength1(vector), i));
  const native = performance.now() - from;
  say(
    `building: ${nf.format(ours / 1000)} s against ${nf.format(native / 1000)} s of hnswlib, ratio ${(ours / native).toFixed(2)}, goal ≤ 6`,
  );
  const asked = Array.from({ length: questions }, (_, i) =>
    vectors[(i * 7_919) % count].map((one, d) => one + Math.sin(i + d * 1.7) * 0.03),
  );
  const ask = async (query, effort) => {
    const pipeline = `from reports\nbest ${best} by cosine_similarity(@.textVector, :q) as s${effort === undefined ? '' : ` effort ${effort}`}\nselect @.s`;
    const answer = await engine.query({ pipeline, parameters: { q: query }, pageSize: best, guards });
    if (!answer.ok) throw new Error(answer.problem.message);
    return answer.value;
  };
  const loop = loopOver(vectors, dimensions);
  await compare({ title: 'exact best 10', ours: async (i = 0) => (await ask(asked[i % questions])).documents.length, other: (i = 0) => loop(asked[i % questions]).length, against: 'a loop over Float32Array', goal: 1.5, times: 31 }); // prettier-ignore
  /** The score of the last of the true best: whatever scores as much is one of them. */
  const least = [];
  for (const query of asked) least.push((await ask(query)).documents.at(-1).s);
  const length = asked.map((query) => Math.hypot(...query));
  const recallOf = async (found) => {
    let right = 0;
    for (let i = 0; i < questions; i++) right += (await found(i)).filter((score) => score >= least[i] - 1e-6).length / best;
    return right / questions;
  };
  const nativeScores = (i, effort) => {
    other.setEf(effort);
    return other.searchKnn(asked[i], best).distances.map((distance) => (1 - distance) / length[i]);
  };
  const scoresOf = {
    ours: async (i, effort) => (await ask(asked[i], effort)).documents.map(({ s }) => s),
    native: (i, effort) => nativeScores(i, effort),
  };
  /** The least effort with which one of the two finds so many of the true best. */
  const reaching = async (wanted, scores) => {
    for (let effort = best; ; effort = Math.ceil(effort * 1.1)) {
      const recall = await recallOf((i) => scores(i, effort));
      if (recall >= wanted || effort > count) return { effort, recall };
    }
  };
  for (const wanted of [0.95, 0.99, 1]) {
    const own = await reaching(wanted, scoresOf.ours);
    const same = await reaching(own.recall, scoresOf.native);
    let compared = 0;
    for (const query of asked) compared += (await ask(query, own.effort)).cost.indexEntriesRead;
    say(`recall@10 ≥ ${wanted}: ${own.recall.toFixed(4)} with effort ${own.effort}, ${((compared / questions / count) * 100).toFixed(2)} % of the vectors compared (goal ≤ 3 at 84,000); hnswlib ${same.recall.toFixed(4)} with ${same.effort}`); // prettier-ignore
    let turn = 0;
    await compare({ title: `best 10, recall ≥ ${wanted}`, ours: async () => (await ask(asked[turn++ % questions], own.effort)).documents.length, other: () => nativeScores(turn % questions, same.effort).length, against: `hnswlib, effort ${same.effort}`, goal: 3, times: 101 }); // prettier-ignore
  }
}

for (const count of process.argv
  .slice(2)
  .filter((one) => /^\d+$/.test(one))
  .map(Number))
  await benchVectors(count);
