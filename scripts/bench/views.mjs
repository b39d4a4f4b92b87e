/* What a materialized view answers, against the same over a plain collection of its rows, and against working it out: `npm run bench -- --views [documents]`. */
import { benchViewsLoad } from './viewsLoad.mjs';
import { Engine } from '../../packages/core/dist/index.js';
import { bookings } from './fair/bookings.mjs';
import { compare } from './compare.mjs';

const count = Number(process.argv.slice(2).find((one) => /^\d+$/.test(one)) ?? 500_000);
const host = { pause: () => new Promise((resolve) => setImmediate(resolve)), newId: () => 'run', now: () => new Date() };
const guards = { documentsRead: 1e9, memoryBytes: 8e9, timeMs: 1e6 };
const summary = 'from bookings\nwhere @.status != "late"\ngroup by @.hutId, @.channel measure n = count(), people = sum(@.party.size)';
const rest = '\nwhere @.people > 20\norder by @.people desc, @.hutId\nlimit 20';

const engine = new Engine(host);
const { documents, partners } = bookings.make(count);
const put = (name, rows) => {
  const collection = engine.define(name, '@.id');
  rows.forEach((one, position) => collection.store.put(position, JSON.parse(JSON.stringify(one))));
  return collection;
};
put('bookings', documents);
for (const [name, rows] of Object.entries(partners)) put(name, rows);
const ask = async (pipeline, more = {}) => {
  const answer = await engine.query({ pipeline, pageSize: 1_000_000, guards, ...more });
  if (!answer.ok) throw new Error(answer.problem.message);
  return answer.value;
};
const { documents: rows } = await ask(summary);
put('plain', rows);
const kept = put('summary', rows);
kept.storedVersion = 1;
engine.setKeptViews([{ name: 'summary', view: { pipeline: summary }, isFresh: true, version: 1, refreshedAt: null, notes: [] }]);
const unasked = await ask(summary + rest);
if (unasked.sources.length !== 1) throw new Error('the view did not answer');
process.stdout.write(`\n${count.toLocaleString('en')} bookings, ${rows.length.toLocaleString('en')} rows kept\n`);
const told = async (more) => JSON.stringify((await ask(summary + rest, more)).documents);
await compare({
  title: 'a question that a view answers unasked',
  ours: () => told({}),
  other: async () => JSON.stringify((await ask(`from plain${rest}`)).documents),
  against: 'a plain collection of its rows',
  goal: 2,
  times: 15,
  same: (a, b) => a === b,
});
await compare({
  title: 'the same',
  ours: () => told({}),
  other: () => told({ ignoreViews: ['summary'] }),
  against: 'working it out anew',
  goal: 1,
  times: 5,
  same: (a, b) => a === b,
});

/** What following one changed document takes the engine: the rows that it changes, worked out and put. */
async function following(name, pipeline) {
  const made = await ask(pipeline);
  const view = put(name, []);
  engine.setKeptViews([{ name, view: { pipeline }, isFresh: true, version: 1, refreshedAt: null, notes: [] }]);
  const places = await engine.followers.begin(name, () => false);
  if (typeof places === 'string') throw new Error(places);
  made.documents.forEach((row, at) => view.store.put(places[at], row));
  const source = engine.collections.get('bookings');
  const times = [];
  for (let i = 0; i < 300; i++) {
    const position = (i * 7_919) % count;
    const document = { ...source.store.documents[position], channel: documents[(position + i) % count].channel };
    await source.apply([{ position, document }]);
    const began = performance.now();
    const puts = engine.followers.catchUp(name);
    await view.apply(puts.map((one) => ({ position: one.position, document: one.row })));
    times.push(performance.now() - began);
  }
  const rows = view.store.documents.filter((one) => one !== undefined);
  if (JSON.stringify(rows) !== JSON.stringify((await ask(pipeline, { ignoreViews: [name] })).documents))
    throw new Error('the rows are not those of the pipeline');
  times.sort((a, b) => a - b);
  const at = (share) => times[Math.floor(times.length * share)].toFixed(2);
  process.stdout.write(
    `following one changed document, ${rows.length.toLocaleString('en')} rows: median ${at(0.5)} ms, 90 % ${at(0.9)} ms, longest ${at(0.999)} ms (goal: median ≤ 1 ms)\n`,
  );
  engine.followers.end(name);
}

await following('followed', summary);
await following('few', 'from bookings\ngroup by @.channel measure n = count(), people = sum(@.party.size)');
await following(
  'joined',
  'from bookings\njoin members as member on member.id == @.memberId\ngroup by @.member.home.town as town, @.status measure n = count()',
);
await following('plainRows', 'from bookings\nwhere @.status == "late"\nselect @.id, @.hutId, @.channel');

await benchViewsLoad();
