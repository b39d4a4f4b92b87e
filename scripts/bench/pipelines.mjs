import { network } from '../../demo/dist/network.js';
import { compare } from './compare.mjs';

const equal = (a, b) => JSON.stringify(a) === JSON.stringify(b);

/** Unnest with group, and a join with a group over it: against hand-written loops, and the same in SQLite's SQL. */
export async function benchPipelines({ engine, ask, documents, database }) {
  const partners = network(1).find(({ name }) => name === 'members');
  const members = Array.from({ length: 8_000 }, (_, i) => partners.document(i));
  const store = engine.define('members', '@.id').store;
  members.forEach((one, position) => store.put(position, one));
  await database.run('CREATE TABLE documents_2 (position INTEGER PRIMARY KEY, identity TEXT NOT NULL UNIQUE, body TEXT NOT NULL) STRICT');
  await database.transaction(async () => {
    for (const [i, one] of members.entries())
      await database.run('INSERT INTO documents_2 VALUES (?,?,?)', [i, one.id, JSON.stringify(one)]);
  });

  const unnested =
    'from bookings\nunnest @.nights as night\ngroup by @.hutId\n  measure fees = sum(@.night.fee), nights = count()\norder by @.hutId';
  const sums = async () =>
    (await ask(unnested, { pageSize: 1_000 })).documents.map(({ hutId, fees, nights }) => [hutId, Math.round(fees), nights]);
  await compare({
    title: 'unnest + group',
    ours: sums,
    other: () => {
      const groups = new Map();
      for (const one of documents) {
        for (const night of one.nights) {
          let group = groups.get(one.hutId);
          if (group === undefined) groups.set(one.hutId, (group = { fees: 0, nights: 0 }));
          if (typeof night.fee === 'number') group.fees += night.fee;
          group.nights++;
        }
      }
      return [...groups].sort((a, b) => (a[0] < b[0] ? -1 : 1)).map(([hutId, { fees, nights }]) => [hutId, Math.round(fees), nights]);
    },
    against: 'a hand-written loop',
    goal: 2,
    times: 7,
    same: equal,
  });
  await compare({
    title: 'unnest + group',
    ours: sums,
    other: async () =>
      (
        await database.all(
          `SELECT body ->> '$.hutId' AS hutId, sum(CASE WHEN json_type(n.value, '$.fee') IN ('integer','real') THEN n.value ->> '$.fee' END) AS fees, count(*) AS nights
           FROM documents_1, json_each(body, '$.nights') n GROUP BY hutId ORDER BY hutId`,
        )
      ).map(({ hutId, fees, nights }) => [hutId, Math.round(fees), nights]),
    against: 'SQLite, json_each',
    goal: 1,
    times: 1,
    same: equal,
  });

  const joined =
    'from bookings\njoin members as member on member.id == @.memberId\ngroup all measure rows = count(), oldest = min(@.member.joinedOn)';
  const totals = async () => (await ask(joined, { pageSize: 1 })).documents[0];
  await compare({
    title: 'hash join with 8,000',
    ours: totals,
    other: () => {
      const byId = new Map(members.map((member) => [member.id, member]));
      const rows = [];
      for (const one of documents) {
        const member = byId.get(one.memberId);
        if (member !== undefined) rows.push({ ...one, member });
      }
      let oldest;
      for (const { member } of rows) if (oldest === undefined || member.joinedOn < oldest) oldest = member.joinedOn;
      return { rows: rows.length, oldest };
    },
    against: 'a hand-written loop',
    goal: 2,
    times: 7,
    same: equal,
  });
  await compare({
    title: 'hash join with 8,000',
    ours: totals,
    other: async () =>
      (
        await database.all(
          `SELECT count(*) AS rows, min(m.body ->> '$.joinedOn') AS oldest FROM documents_1 b JOIN documents_2 m ON m.identity = b.body ->> '$.memberId'`,
        )
      )[0],
    against: 'SQLite, by its primary key',
    goal: 1,
    times: 1,
    same: equal,
  });
  const { cost } = await ask('from bookings\nleft join members as m on m.id == @.memberId\ngroup by @.hutId measure n = count()', {
    guards: undefined,
  });
  process.stdout.write(
    `a join of ${documents.length.toLocaleString('en')} with 8,000 and a group over it, within the default guards: ${Math.round(cost.timeMs)} ms, ${(cost.memoryBytes / 1024 / 1024).toFixed(1)} MB held\n`,
  );
}

/** A long list that documents are held against: it is made a set of once, in a condition and in a computed field. */
export async function benchMembers({ ask, documents }) {
  const list = Array.from({ length: 4_000 }, (_, i) => documents[(i * 7_919) % documents.length].memberId ?? '');
  const pipeline =
    'from bookings\ncompute known = @.memberId in :list\nwhere @.known == true && @.memberId in :list\ngroup all measure n = count()';
  await compare({
    title: 'in a list of 4,000, twice',
    ours: async () => (await ask(pipeline, { parameters: { list }, pageSize: 1 })).documents[0].n,
    other: () => {
      const set = new Set(list);
      let n = 0;
      for (const { memberId } of documents) if (set.has(memberId)) n++;
      return n;
    },
    against: 'a hand-written loop',
    goal: 2,
    same: (a, b) => a === b,
  });
}
