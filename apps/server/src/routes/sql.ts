import { sqlRequest, translateRequest, type Body } from '@zesty-sieve/contract';
import { collectionsRead, nearestName, outlineSql, type Diagnostic } from '@zesty-sieve/core/language';
import { Router } from 'express';
import { tableOf } from '../told/tableOf.ts';
import type { SqlAround } from '../engine/services/askingSql.ts';
import { flagFor } from '../http/flagFor.ts';
import { handle, readBy, sendJson } from '../http/handler.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';

/** Questions in SQL. What a text is, is read here; everything that looks at documents is the engine's. */
export function sqlRoutes(hub: Hub): Router {
  const router = Router();

  router.post(
    '/sql',
    handle(async (request, response) => {
      const { sql, ...query } = readBy(sqlRequest, request.body);
      const { statement, sources, diagnostics } = outlineSql(sql);
      if (statement === undefined) throw new ServerProblem('/sql', diagnostics[0]!.message, { diagnostics });
      if (statement.kind === 'showTables') return sendJson(response, JSON.stringify(showTables(hub)));
      const names = sources.map(({ name }) => name);
      const around = aroundOf(hub, names);
      refuseUnknown(sql, sources, around.names);
      if (statement.kind === 'describe')
        return sendJson(response, unwrap(await hub.engine.call((engine) => engine.describeTable(around, statement.name))));
      const flag = flagFor(response);
      const asked = { ...query, sql, guards: { ...hub.guards, ...query.guards } };
      await hub.materialized.ready(around.sources, asked.guards.timeMs);
      const { answer, kept, read } = await hub.ask(flag, (engine) => engine.sql(aroundOf(hub, names), asked, flag.buffer));
      if (kept !== null) hub.runLog.add(kept);
      hub.materialized.uses.add(read);
      sendJson(response, unwrap(answer));
    }),
  );

  router.post(
    '/sql/translate',
    handle(async (request, response) => {
      const asked = readBy(translateRequest, request.body);
      sendJson(response, 'sql' in asked ? await translated(hub, asked.sql) : await printed(hub, asked));
    }),
  );

  return router;
}

/** What a text of SQL became, as JSON text; `pipeline` is null where it has errors. */
export async function translated(hub: Hub, sql: string): Promise<string> {
  const around = aroundOf(hub, outlineSql(sql).sources.map(({ name }) => name)); // prettier-ignore
  return unwrap(await hub.engine.call((engine) => engine.translateSql(around, sql)));
}

/** The pipeline that a text of SQL is, to be saved. @throws ServerProblem where it has errors */
export async function pipelineOfSql(hub: Hub, sql: string): Promise<string> {
  const { pipeline, diagnostics } = JSON.parse(await translated(hub, sql)) as { pipeline: string | null; diagnostics: Diagnostic[] };
  const errors = diagnostics.filter(({ severity }) => severity === 'error');
  if (pipeline === null)
    throw new ServerProblem('/sql', errors[0] === undefined ? 'A question can be saved, a statement about tables cannot.' : `Line ${errors[0].line}: ${errors[0].message}`, { diagnostics: errors }); // prettier-ignore
  return pipeline;
}

async function printed(hub: Hub, asked: Extract<Body<typeof translateRequest>, { pipeline: string }>): Promise<string> {
  const { pipeline, dialect = 'iso', rows = 'columns' } = asked;
  return unwrap(await hub.engine.call((engine) => engine.printSql(pipeline, dialect, rows)));
}

function aroundOf(hub: Hub, tables: readonly string[]): SqlAround {
  const { catalog } = hub;
  const views = new Map(catalog.viewList);
  const collections = tables.flatMap((name) => (views.has(name) ? collectionsRead(views.get(name)!.pipeline, views) : [name]));
  const sources = [...new Set(collections)].flatMap((name) => catalog.find(name) ?? []);
  return { sources, names: catalog.sourceNames, views: catalog.viewList };
}

function refuseUnknown(sql: string, sources: readonly { name: string; from: number; to: number }[], names: readonly string[]): void {
  const diagnostics = sources
    .filter(({ name }) => !names.includes(name))
    .map(({ name, from, to }): Diagnostic => {
      const near = nearestName(name, names);
      const mend = near === undefined ? undefined : { label: `Write ${near}`, edits: [{ from, to, insert: near }] };
      const message = `There is no table ${name}.${near === undefined ? ' SHOW TABLES lists them.' : ` Did you mean ${near}?`}`;
      const line = sql.slice(0, from).split('\n').length;
      return { severity: 'error', code: 'sql-unknown-table', message, from, to, line, ...(mend && { mend }) };
    });
  if (diagnostics.length > 0) throw new ServerProblem('/sql', `Line ${diagnostics[0]!.line}: ${diagnostics[0]!.message}`, { diagnostics });
}

function showTables({ catalog }: Hub) {
  const collections = catalog.list().map(({ name, count }) => ({ name, kind: 'collection', documents: count as number | null }));
  const views = [...catalog.everyView].map(([name]) => ({ name, kind: 'view', documents: null }));
  const rows = [...collections, ...views].sort((a, b) => (a.name < b.name ? -1 : 1));
  return { ...tableOf(rows), plan: null, pipeline: null, clauses: [], diagnostics: [] };
}
