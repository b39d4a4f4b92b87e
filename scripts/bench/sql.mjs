import { KeptTranslations, translateSql } from '../../packages/core/dist/index.js';
import { fieldTree } from '../../packages/core/dist/shape/fieldTree.js';
import { alone, compare } from './compare.mjs';

/** Ten clauses: a member of WITH, a join, a group, its condition, an order and a page. */
const tenClauses = `WITH open AS (SELECT hutId, memberId, status, party FROM bookings WHERE party.size > 1 AND status IN ('late', 'booked'))
SELECT m.grade AS grade, COUNT(*) AS n, SUM(open.party.size) AS guests, AVG(open.party.size) AS mean
FROM open JOIN members AS m ON m.id = open.memberId
WHERE m.name LIKE '%a%'
GROUP BY m.grade
HAVING COUNT(*) > 3
ORDER BY n DESC
LIMIT 10 OFFSET 1`;

/** Questions in SQL against the pipelines that one would write for them, and what a translation takes. */
export async function benchSql({ engine, ask }) {
  const trees = new Map();
  for (const name of ['bookings', 'members']) trees.set(name, fieldTree(await engine.collections.get(name).shape(() => Promise.resolve())));
  const known = { collections: [...trees.keys()], shapeOf: (name) => trees.get(name), identityOf: () => ['id'] };
  // As the server does: like a pipeline, of which the plan is kept, a text that was asked before is not translated again.
  const kept = new KeptTranslations();
  const translated = (sql) => {
    const { pipeline, diagnostics } = kept.translate(sql, known);
    if (pipeline === undefined) throw new Error(diagnostics.map(({ message }) => message).join(' '));
    return pipeline;
  };
  const rows = async (pipeline) => (await ask(pipeline, { pageSize: 20 })).rowsReturned;
  const pairs = [
    ['SQL: filter and columns', `SELECT id, party.size AS size FROM bookings WHERE status = 'late' AND party.size >= 4`, 'from bookings\nwhere @.status == "late" && @.party.size >= 4\nselect @.id, @.party.size as size'], // prettier-ignore
    ['SQL: group by two', 'SELECT status, party.size AS size, COUNT(*) AS n FROM bookings GROUP BY status, party.size', 'from bookings\ngroup by @.status, @.party.size as size measure n = count()'], // prettier-ignore
    ['SQL: join and group', 'SELECT m.grade AS grade, COUNT(*) AS n FROM bookings AS b JOIN members AS m ON m.id = b.memberId GROUP BY m.grade', 'from bookings\njoin members as m on m.id == @.memberId\ngroup by @.m.grade as grade measure n = count()'], // prettier-ignore
  ];
  for (const [title, sql, pipeline] of pairs)
    await compare({
      title,
      ours: () => rows(translated(sql)),
      other: () => rows(pipeline),
      against: 'the pipeline itself',
      goal: 1.1,
      times: 11,
      same: (a, b) => a === b,
    });
  await alone({ title: 'translating SQL of ten clauses', work: () => translateSql(tenClauses, known), goalMs: 1 });
}
