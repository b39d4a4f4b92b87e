/*
 * The engine against the loop that a good engineer writes for that one question: it checks types as the notation means them, makes the
 * objects that the answer holds and no others, and copies nothing else. Every row of both answers is compared, once, before they are timed.
 */
import { Engine } from '../../../packages/core/dist/index.js';
import { compare } from '../compare.mjs';
import { bookings } from './bookings.mjs';
import { readings } from './readings.mjs';

const host = { pause: () => new Promise((resolve) => setImmediate(resolve)), newId: () => 'run', now: () => new Date() };
const guards = { documentsRead: 1e9, memoryBytes: 8e9, timeMs: 1e6 };
const identities = { devices: '@.serial' };
const goals = { mean: 1.5, worst: 2.5 };

/** Rows are the same to the last digits of sums: the engine's are exact, those of a loop depend on the order of adding. */
function alike(a, b) {
  if (typeof a === 'number' && typeof b === 'number') return a === b || Math.abs(a - b) <= Math.abs(b) * 1e-9;
  if (typeof a !== 'object' || a === null || typeof b !== 'object' || b === null) return a === b;
  if (a === b) return true;
  const names = Object.keys(a);
  return names.length === Object.keys(b).length && names.every((name) => Object.hasOwn(b, name) && alike(a[name], b[name]));
}

/** @returns every line that was measured: `{set, title, ratio, goal, isPattern}` */
export async function benchFair({ count, only, times = 7 }) {
  const lines = [];
  for (const set of [bookings, readings]) {
    const questions = set.questions.filter(({ title }) => only === undefined || title.includes(only));
    if (questions.length > 0) lines.push(...(await benchSet(set, questions, count, times)));
  }
  return lines;
}

async function benchSet({ name, make }, questions, count, times) {
  const made = make(count);
  // As documents are that have been loaded: a text that was put together is no plain text to V8.
  const documents = made.documents.map((one) => JSON.parse(JSON.stringify(one)));
  const partners = JSON.parse(JSON.stringify(made.partners));
  const engine = new Engine(host);
  for (const [collection, list] of Object.entries({ [name]: documents, ...partners })) {
    const { store } = engine.define(collection, identities[collection] ?? '@.id');
    list.forEach((one, position) => store.put(position, one));
    void engine.collections.get(collection).identityIndex;
  }
  const lines = [];
  for (const { title, pipeline, loop, goal, isPattern = false } of questions) {
    const text = pipeline.startsWith('from') ? pipeline : `from ${name}\n${pipeline}`;
    const ours = async () => {
      const answer = await engine.query({ pipeline: text, pageSize: 0, guards });
      if (!answer.ok) throw new Error(`${title}: ${answer.problem.message}`);
      return answer.value.rowsReturned;
    };
    const other = () => loop(documents, partners);
    await ours();
    const { documents: rows } = engine.rows('run', 0, Infinity).value;
    const expected = other();
    const wrong = expected.findIndex((row, i) => !alike(row, rows[i]));
    if (wrong >= 0 || rows.length !== expected.length)
      throw new Error(
        `${name}, ${title}: row ${wrong} of ${rows.length}/${expected.length}: ${JSON.stringify([rows[wrong], expected[wrong]])}`,
      );
    const ratio = await compare({
      title: `${name}: ${title}`,
      ours,
      other: () => other().length,
      against: 'a fair loop',
      goal,
      times,
      same: (a, b) => a === b,
    });
    lines.push({ set: name, title, ratio, goal, isPattern });
  }
  return lines;
}

/** The geometric mean and the worst of what was measured, patterns aside for the worst. */
export function summary(lines) {
  const mean = Math.exp(lines.reduce((sum, { ratio }) => sum + Math.log(ratio), 0) / lines.length);
  const others = lines.filter(({ isPattern }) => !isPattern);
  const worst = (others.length > 0 ? others : lines).reduce((a, b) => (b.ratio > a.ratio ? b : a));
  return {
    lines: lines.length,
    met: lines.filter(({ ratio, goal }) => ratio <= goal).length,
    mean,
    meanGoal: goals.mean,
    worst,
    worstGoal: goals.worst,
  };
}

/** The summary as a line. */
export function told(lines) {
  const { met, mean, meanGoal, worst, worstGoal, lines: count } = summary(lines);
  return `${met} of ${count} goals met · geometric mean ${mean.toFixed(2)} (goal ≤ ${meanGoal}) · worst ${worst.ratio.toFixed(2)}, ${worst.set}: ${worst.title} (goal ≤ ${worstGoal}, patterns aside)`;
}
