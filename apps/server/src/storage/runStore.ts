import type { KeptRun, RunList, RunListQuery } from '@zesty-sieve/contract';
import type { AskedBefore } from '../told/askedBefore.ts';
import type { Database, Row } from './database.ts';

/** A run that is to be kept. */
export interface RunToKeep extends Omit<KeptRun, 'name' | 'baseline' | 'baselineReads'> {
  /** The plan and what else is told of it, as JSON. */
  readonly explained: string;
  readonly collectionIds: readonly (readonly [string, number])[];
}

/** Bytes of plans that are kept, beside the bound on how many runs. */
const mostBytes = 64 * 1024 * 1024;

/** Keeps runs, counts what their indexes were used for, and lets the oldest go beyond the bound. Baselines stay. */
export async function keepRuns(database: Database, runs: readonly RunToKeep[], mostRuns: number): Promise<void> {
  for (const run of runs) {
    const { cost } = run;
    const added = await database.run(
      `INSERT OR IGNORE INTO runs (id, at, pipeline, name, parameters, collections, documentsRead, indexEntriesRead, rowsReturned, memoryBytes, timeMs, guard, indexesUsed, explained, sql, publication)
       VALUES (?, ?, ?, (SELECT name FROM pipelines WHERE trim(pipeline, char(10, 13, 32)) = trim(?, char(10, 13, 32)) LIMIT 1), ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`,
      [
        run.id,
        run.at,
        run.pipeline,
        run.pipeline,
        run.parameters === null ? null : JSON.stringify(run.parameters),
        JSON.stringify(run.collections),
        cost.documentsRead,
        cost.indexEntriesRead,
        cost.rowsReturned,
        cost.memoryBytes,
        cost.timeMs,
        run.guard === null ? null : JSON.stringify(run.guard),
        JSON.stringify(run.indexesUsed),
        run.explained,
        run.sql,
        run.publication,
      ],
    );
    // It was written before, and only the answer was lost.
    if (added === 0) continue;
    const ids = new Map(run.collectionIds);
    for (const used of run.indexesUsed) {
      const at = used.indexOf('.');
      await database.run(
        `INSERT INTO indexUse (collectionId, name, runs, lastUsedAt) VALUES (?, ?, 1, ?)
         ON CONFLICT (collectionId, name) DO UPDATE SET runs = runs + 1, lastUsedAt = excluded.lastUsedAt`,
        [ids.get(used.slice(0, at)) ?? 0, used.slice(at + 1), run.at],
      );
    }
  }
  await letGo(database, mostRuns, runs.length);
}

/** Weighing all that is kept reads all of it, so it is done once in so many runs. */
const weighedEvery = 64;

async function letGo(database: Database, mostRuns: number, added: number): Promise<void> {
  const spared = 'id NOT IN (SELECT baseline FROM pipelines WHERE baseline IS NOT NULL)';
  const { n } = await database.only<{ n: number }>('SELECT count(*) AS n FROM runs');
  let tooMany = n - mostRuns;
  if (n % weighedEvery < added) {
    const { bytes } = await database.only<{ bytes: number }>('SELECT coalesce(sum(length(explained)), 0) AS bytes FROM runs');
    if (bytes > mostBytes) tooMany = Math.max(tooMany, Math.ceil(n / 10));
  }
  if (tooMany > 0)
    await database.run(`DELETE FROM runs WHERE id IN (SELECT id FROM runs WHERE ${spared} ORDER BY at, id LIMIT ?)`, [tooMany]);
}

const orders = {
  recent: 'at DESC, id DESC',
  slowest: 'timeMs DESC',
  // The lowest yield: rows returned for each document read.
  wasteful: '(documentsRead + 1.0) / (rowsReturned + 1.0) DESC, documentsRead DESC',
  memory: 'memoryBytes DESC',
} as const;

const columns =
  'id, at, pipeline, sql, publication, name, parameters, collections, documentsRead, indexEntriesRead, rowsReturned, memoryBytes, timeMs, guard, indexesUsed, (id IN (SELECT baseline FROM pipelines WHERE baseline IS NOT NULL)) AS isBaseline, (SELECT b.documentsRead FROM pipelines p JOIN runs b ON b.id = p.baseline WHERE p.name = runs.name) AS baselineReads';

export async function listRuns(
  database: Database,
  query: Required<Pick<RunListQuery, 'order' | 'offset' | 'size'>> & RunListQuery,
): Promise<RunList> {
  const tests: string[] = [];
  const values: unknown[] = [];
  if (query.collection !== undefined) {
    tests.push('EXISTS (SELECT 1 FROM json_each(collections) WHERE value = ?)');
    values.push(query.collection);
  }
  if (query.name !== undefined) {
    tests.push('name = ?');
    values.push(query.name);
  }
  if (query.stopped !== undefined) tests.push(query.stopped === 'true' ? 'guard IS NOT NULL' : 'guard IS NULL');
  if (query.text !== undefined && query.text !== '') {
    tests.push("instr(lower(pipeline || char(10) || coalesce(sql, '')), lower(?)) > 0");
    values.push(query.text);
  }
  const where = tests.length === 0 ? '' : ` WHERE ${tests.join(' AND ')}`;
  const order = orders[query.order];
  // Of each question the run that comes first in the order stands for all of them.
  const kept =
    query.once === 'true'
      ? `(SELECT *, count(*) OVER question AS times, row_number() OVER (question ORDER BY ${order}) AS place FROM runs${where} WINDOW question AS (PARTITION BY pipeline, parameters))`
      : `(SELECT *, NULL AS times, 1 AS place FROM runs${where})`;
  const rows = await database.all(`SELECT ${columns}, times FROM ${kept} AS runs WHERE place = 1 ORDER BY ${order} LIMIT ? OFFSET ?`, [
    ...values,
    query.size,
    query.offset,
  ]);
  const { n } = await database.only<{ n: number }>(`SELECT count(*) AS n FROM ${kept} WHERE place = 1`, values);
  return { runs: rows.map((row) => ({ ...runOf(row), ...(row.times !== null && { times: Number(row.times) }) })), total: n };
}

/**
 * A run with its plan, as JSON text: plans of long pipelines nest deeper than other threads can take as objects. Undefined where it is not
 * kept any more.
 */
export async function findRun(database: Database, id: string): Promise<string | undefined> {
  const row = await database.first(`SELECT ${columns}, explained FROM runs WHERE id = ?`, [id]);
  return row && `${JSON.stringify(runOf(row)).slice(0, -1)},${String(row.explained).slice(1)}`;
}

function runOf(row: Row): KeptRun {
  const parsed = <T>(value: string | number | null | undefined): T | null =>
    value === null || value === undefined ? null : (JSON.parse(String(value)) as T);
  return {
    id: String(row.id),
    at: String(row.at),
    pipeline: String(row.pipeline),
    sql: row.sql === null || row.sql === undefined ? null : String(row.sql),
    publication: typeof row.publication === 'string' ? row.publication : null,
    name: row.name === null ? null : String(row.name),
    parameters: parsed(row.parameters),
    collections: parsed<string[]>(row.collections) ?? [],
    cost: {
      documentsRead: Number(row.documentsRead),
      indexEntriesRead: Number(row.indexEntriesRead),
      rowsReturned: Number(row.rowsReturned),
      memoryBytes: Number(row.memoryBytes),
      timeMs: Number(row.timeMs),
    },
    guard: parsed(row.guard),
    indexesUsed: parsed<string[]>(row.indexesUsed) ?? [],
    baseline: Boolean(row.isBaseline),
    baselineReads: row.baselineReads === null ? null : Number(row.baselineReads),
  };
}

/** How often each index of a collection was used by runs, and when last. */
export function indexUse(database: Database, collectionId: number): Promise<{ name: string; runs: number; lastUsedAt: string | null }[]> {
  return database.all('SELECT name, runs, lastUsedAt FROM indexUse WHERE collectionId = ?', [collectionId]);
}

const questionsLookedAt = 60;

/** What is needed of what a run told. */
function toldOf(explained: string): Pick<AskedBefore, 'suggestions' | 'rowsByLine'> {
  const { suggestions, lines = [] } = JSON.parse(explained) as Pick<AskedBefore, 'suggestions'> & {
    lines?: { line: number; rowsOut: number; stoppedEarly: boolean }[];
  };
  const whole = lines.filter(({ stoppedEarly }) => !stoppedEarly);
  return { suggestions, rowsByLine: whole.map(({ line, rowsOut }) => [line, rowsOut] as const) };
}

/** The questions of kept runs, those that cost most first, and saved pipelines that were not run: each with how often. */
export async function askedBefore(database: Database): Promise<AskedBefore[]> {
  const rows = await database.all(
    `SELECT pipeline, max(name) AS name, parameters, count(*) AS runs, sum(documentsRead) AS reads, max(at), timeMs, explained
     FROM runs GROUP BY pipeline, parameters ORDER BY reads DESC LIMIT ?`,
    [questionsLookedAt],
  );
  const asked = rows.map((row): AskedBefore => ({
    pipeline: String(row.pipeline),
    name: row.name === null ? null : String(row.name),
    parameters: row.parameters === null ? null : (JSON.parse(String(row.parameters)) as never),
    runs: Number(row.runs),
    documentsRead: Number(row.reads),
    timeMs: Number(row.timeMs),
    ...toldOf(String(row.explained)),
  }));
  const known = new Set(asked.map(({ pipeline }) => pipeline.trim()));
  const saved = await database.all('SELECT name, pipeline, parameters FROM pipelines ORDER BY name');
  for (const { name, pipeline, parameters } of saved) {
    if (known.has(String(pipeline).trim())) continue;
    const given = parameters === null ? null : (JSON.parse(String(parameters)) as never);
    asked.push({
      pipeline: String(pipeline),
      name: String(name),
      parameters: given,
      runs: 0,
      documentsRead: 0,
      timeMs: 0,
      rowsByLine: [],
      suggestions: [],
    });
  }
  return asked;
}
