import { readDefinition, translateSql } from '../../packages/core/dist/index.js';
import { alone, compare } from './compare.mjs';

/** What indexes give, against SQLite with the same indexes on expressions; and what planning itself takes. */
export async function benchIndexes({ engine, ask, collection, database, pause }) {
  const count = (result) => result.rowsReturned;
  await collection.buildIndex(readDefinition({ keys: ['@.hutId'] }), pause);
  await collection.buildIndex(readDefinition({ keys: ['@.arrivesOn'] }), pause);
  await database.run(`CREATE INDEX by_hut ON documents_1 (body ->> '$.hutId')`);
  await database.run(`CREATE INDEX by_arrival ON documents_1 (body ->> '$.arrivesOn')`);
  await database.run('ANALYZE');

  await compare({
    title: 'index lookup, one hut',
    ours: async () => count(await ask('from bookings\nwhere @.hutId == "h-022"')),
    other: async () => (await database.all(`SELECT body FROM documents_1 WHERE body ->> '$.hutId' = 'h-022'`)).length,
    against: 'SQLite, the same index',
    goal: 1,
    times: 15,
    same: (a, b) => a === b,
  });
  await compare({
    title: 'index range, a week',
    ours: async () => count(await ask('from bookings\nwhere @.arrivesOn >= "2025-07-07" && @.arrivesOn < "2025-07-14"')),
    other: async () =>
      (
        await database.all(
          `SELECT body FROM documents_1 WHERE body ->> '$.arrivesOn' >= '2025-07-07' AND body ->> '$.arrivesOn' < '2025-07-14'`,
        )
      ).length,
    against: 'SQLite, the same index',
    goal: 1,
    times: 15,
    same: (a, b) => a === b,
  });
  await compare({
    title: 'index-only scan, two keys',
    ours: async () => count(await ask('from bookings\nwhere @.status == "late"\nselect @.status, @.arrivesOn')),
    other: async () =>
      (
        await database.all(
          `SELECT body ->> '$.status' AS s, body ->> '$.arrivesOn' AS a FROM documents_1 WHERE body ->> '$.status' = 'late'`,
        )
      ).length,
    against: 'SQLite, the same index',
    goal: 1,
    times: 15,
    same: (a, b) => a === b,
  });
  await compare({
    title: 'different values with their counts',
    ours: async () => count(await ask('from bookings\ngroup by @.hutId\n  measure n = count()')),
    other: async () => (await database.all(`SELECT body ->> '$.hutId', count(*) FROM documents_1 GROUP BY body ->> '$.hutId'`)).length,
    against: 'SQLite, the same index',
    goal: 1,
    times: 15,
  });
  await compare({
    title: 'order by index, first 1,000',
    ours: async () => count(await ask('from bookings\norder by @.arrivesOn\nlimit 1000')),
    other: async () => (await database.all(`SELECT body FROM documents_1 ORDER BY body ->> '$.arrivesOn' LIMIT 1000`)).length,
    against: 'SQLite, the same index',
    goal: 1,
    times: 15,
    same: (a, b) => a === b,
  });

  const page = (offset) => async () => count(await ask(`from bookings\norder by @.arrivesOn\noffset ${offset}\nlimit 12`));
  await compare({
    title: 'offset 50,000 by index, 12 rows',
    ours: page(50_000),
    other: page(0),
    against: 'offset 0',
    goal: 1.5,
    times: 51,
    same: (a, b) => a === b,
  });

  for (const keys of [
    ['@.memberId'],
    ['@.channel'],
    ['@.party.size'],
    ['@.bookedAt'],
    ['@.status', '@.party.size'],
    ['@.hutId', '@.arrivesOn'],
    ['@.channel', '@.bookedAt desc'],
  ])
    await collection.buildIndex(readDefinition({ keys }), pause);
  const pipeline = [
    'from bookings',
    'where @.status == "late" && @.party.size >= :least',
    'where @.channel == "web" || @.hutId == "h-007"',
    'compute people = @.party.size, month = date_trunc("month", @.arrivesOn)',
    'unnest @.nights as night',
    'compute fee = @.night.fee * @.people',
    'group by @.hutId, @.month measure fees = sum(@.fee), parties = count()',
    'rank as place partition by @.month order by @.fees desc',
    'order by @.month, @.place',
    'limit 20',
  ];
  await alone({
    title: `planning ${pipeline.length} lines, ${collection.indexList.length} indexes`,
    // Another text each time, so that nothing is remembered of it.
    work: (i) => engine.plan({ pipeline: [...pipeline, `# ${i}`].join('\n'), parameters: { least: 2 + (i % 5) } }),
    goalMs: 2,
  });
  const sql =
    "WITH late AS (SELECT hutId, COUNT(*) AS n FROM bookings WHERE status = 'late' GROUP BY hutId) SELECT SUBSTRING(b.arrivesOn FROM 1 FOR 7) AS month, COUNT(*) AS nights, SUM(n.fee) AS fees FROM bookings AS b JOIN late AS l ON l.hutId = b.hutId CROSS JOIN UNNEST(b.nights) AS n WHERE b.party.size >= :least AND b.channel <> 'web' GROUP BY month HAVING COUNT(*) > 3 ORDER BY fees DESC NULLS LAST LIMIT 20 OFFSET 3";
  await alone({ title: 'translating SQL of ten clauses', work: (i) => translateSql(`${sql} -- ${i}`), goalMs: 1 });
  const long = (i) => Array.from({ length: 2_000 }, (_, at) => `where @.party.size != ${100 + at} || @.hutId == "h-${i}"`);
  await alone({
    title: 'planning 2,000 lines of conditions',
    work: (i) => engine.plan({ pipeline: ['from bookings', ...long(i)].join('\n') }),
    goalMs: 1_000,
    times: 5,
  });
}
