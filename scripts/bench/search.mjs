import { createRequire } from 'node:module';
import { builtAtOnce, Engine, readIndex } from '../../packages/core/dist/index.js';
import { network } from '../../demo/dist/network.js';
import { compare } from './compare.mjs';

const { Database } = createRequire(import.meta.url)('sqlite3');
const host = { pause: () => new Promise((resolve) => setImmediate(resolve)), newId: () => 'run', now: () => new Date() };
const say = (line) => process.stdout.write(`${line}\n`);
const nf = new Intl.NumberFormat('en');

/** A database with the full-text index of SQLite over the same texts. */
async function fts(texts, tokenizer) {
  const database = new Database(':memory:');
  const all = (sql, values = []) =>
    new Promise((resolve, reject) => database.all(sql, values, (error, rows) => (error ? reject(error) : resolve(rows))));
  const fill = async () => {
    await all('DROP TABLE IF EXISTS t');
    await all(`CREATE VIRTUAL TABLE t USING fts5(text, tokenize = '${tokenizer}')`);
    await all('BEGIN');
    const insert = database.prepare('INSERT INTO t (rowid, text) VALUES (?, ?)');
    for (let i = 0; i < texts.length; i++) insert.run(i + 1, texts[i]);
    await new Promise((resolve) => insert.finalize(resolve));
    await all('COMMIT');
  };
  await fill();
  return { all, fill };
}

/** Words over the demo's reports: building, the best ten, phrases; against the full-text index of SQLite, whose stems are Porter's too. */
async function benchSearch(count) {
  const { document } = network(1).find(({ name }) => name === 'reports');
  const engine = new Engine(host);
  const collection = engine.define('reports', '@.id');
  const texts = [];
  for (let i = 0; i < count; i++) {
    const one = document(i);
    texts.push(one.text);
    collection.store.put(i, one);
  }
  const definition = readIndex({ name: 'words', kind: 'text', keys: ['@.text'], language: 'english' });
  say(`\n${nf.format(count)} reports, ${nf.format(Math.round(texts.reduce((sum, text) => sum + text.length, 0) / 1e6))} million letters`);
  const other = await fts(texts, 'porter unicode61');
  await compare({
    title: 'building a text index',
    ours: () => builtAtOnce(definition, collection.store).entries,
    other: () => other.fill(),
    against: 'SQLite FTS5, inserts',
    goal: 1.5,
    times: 3,
  });
  await collection.buildIndex(definition, host.pause);
  const index = collection.index('words');
  say(`memory: ${nf.format(index.bytes)} bytes for ${nf.format(texts.reduce((sum, text) => sum + text.length, 0))} bytes of text, goal ≤ 1: ${(index.bytes / texts.reduce((sum, text) => sum + text.length, 0)).toFixed(2)}`); // prettier-ignore
  const ask = async (stages) => {
    const answer = await engine.query({ pipeline: `from reports\n${stages}`, pageSize: 10 });
    if (!answer.ok) throw new Error(answer.problem.message);
    return answer.value.documents.length;
  };
  const commonest = [...index.paths[0].allTerms()].sort((a, b) => b[1].size - a[1].size).map(([term]) => term);
  const [rare] = commonest.slice(-50);
  const words = { one: commonest[3], two: `${commonest[3]} ${commonest[40]}`, five: [3, 10, 40, 90, 150].map((at) => commonest[at] ?? commonest[5]).join(' '), 'one rare': rare }; // prettier-ignore
  for (const [name, asked] of Object.entries(words)) {
    const match = asked.split(' ').join(' OR ');
    await compare({
      title: `best 10, ${name} word${name === 'two' || name === 'five' ? 's' : ''}`,
      ours: () => ask(`best 10 by relevance(@.text, ${JSON.stringify(asked)}, "english") as s\nselect @.id, @.s`),
      other: async () => (await other.all(`SELECT rowid, bm25(t) AS s FROM t WHERE t MATCH ? ORDER BY bm25(t) LIMIT 10`, [match])).length,
      against: 'SQLite FTS5, ORDER BY bm25',
      goal: 1,
      times: 21,
    });
  }
  const phrase = texts[17].split(/[.,]/)[0].split(' ').slice(0, 3).join(' ');
  const rows = async (stages) => {
    const answer = await engine.query({ pipeline: `from reports\n${stages}`, pageSize: 10 });
    if (!answer.ok) throw new Error(answer.problem.message);
    return answer.value.rowsReturned;
  };
  await compare({
    title: `a phrase: “${phrase}”`,
    ours: () => rows(`where mentions_phrase(@.text, ${JSON.stringify(phrase)}, "english")\nselect @.id`),
    other: async () => (await other.all('SELECT rowid FROM t WHERE t MATCH ?', [`"${phrase}"`])).length,
    against: 'SQLite FTS5',
    goal: 1,
    times: 21,
  });
}

for (const count of process.argv.slice(2).filter((one) => /^\d+$/.test(one))) await benchSearch(Number(count));
