import { Router, type Response } from 'express';
import type { Approximation } from '@zesty-sieve/core';
import { flagFor } from '../http/flagFor.ts';
import { onceOfJson } from '../http/once.ts';
import type { CancelFlag } from '../threads/cancelFlag.ts';
import { checkView, refuseWhereUsed, rewrittenFor } from '../views.ts';
import { storeRows } from '../storeRows.ts';
import {
  compareRequest,
  formulasQuery,
  countRequest,
  traceRequest,
  measureRequest,
  parseRequest,
  pipelineName,
  planQuery,
  planRequest,
  queryRequest,
  renamePipeline,
  rowsQuery,
  savePipeline,
  storeRequest,
} from '@zesty-sieve/contract';
import { handle, part, readBy, sendJson } from '../http/handler.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap, type Reply } from '../problem.ts';
import type { EngineService } from '../engine/engineService.ts';
import type { StoredCollection } from '../storage/stored.ts';
import type { Remote } from '../threads/thread.ts';
import { pipelineOfSql } from './sql.ts';
import { contentTypes, sendPiece } from './transfer.ts';

const rowsAtOnce = 1_000;

/** What a download says of rows that may lack some which belong to them: a dictionary of structured fields (RFC 9651). */
function approximateHeader({ effort, recall, measuredAt }: Approximation): string {
  return [
    `effort=${effort}`,
    ...(recall === undefined ? [] : [`recall=${recall.toFixed(3)}`]),
    ...(measuredAt === undefined ? [] : [`measured-at="${measuredAt}"`]),
  ].join(', ');
}

export function queryRoutes(hub: Hub): Router {
  const router = Router();
  const sourcesOf = (pipeline: string): StoredCollection[] => hub.catalog.sourcesFor(pipeline);

  router.post(
    '/query',
    handle(async (request, response) => {
      const query = readBy(queryRequest, request.body);
      const flag = flagFor(response);
      const sources = sourcesOf(query.pipeline);
      const asked = { ...query, guards: { ...hub.guards, ...query.guards } };
      const { answer: answered, kept } = await hub.ask(flag, (engine) =>
        engine.query(sources, hub.catalog.sourceNames, asked, flag.buffer),
      );
      if (kept !== null) hub.runLog.add(kept);
      sendJson(response, unwrap(answered));
    }),
  );

  router.post(
    '/plan',
    handle(async (request, response) => {
      const query = readBy(planRequest, request.body);
      const { show } = readBy(planQuery, request.query);
      const sources = sourcesOf(query.pipeline);
      const told = unwrap(await hub.engine.call((engine) => engine[show](sources, hub.catalog.sourceNames, query)));
      if (show === 'plan') sendJson(response, told);
      else response.type('text/plain').send((JSON.parse(told) as { text: string }).text);
    }),
  );

  /** Answers with what the engine makes of a question that can be cancelled. */
  const answer = async (
    response: Response,
    work: (engine: Remote<EngineService>, flag: CancelFlag) => Promise<Reply<string>>,
  ): Promise<void> => {
    const flag = flagFor(response);
    sendJson(response, unwrap(await hub.ask(flag, (engine) => work(engine, flag))));
  };

  router.post(
    '/counts',
    handle(async (request, response) => {
      const query = readBy(countRequest, request.body);
      await answer(response, (engine, flag) => engine.counts(sourcesOf(query.pipeline), hub.catalog.sourceNames, query, flag.buffer));
    }),
  );

  router.post(
    '/trace',
    handle(async (request, response) => {
      const query = readBy(traceRequest, request.body);
      const asked = { ...query, identity: String(query.identity) };
      await answer(response, (engine, flag) => engine.trace(sourcesOf(query.pipeline), hub.catalog.sourceNames, asked, flag.buffer));
    }),
  );

  router.post(
    '/compare',
    handle(async (request, response) => {
      const { first, second } = readBy(compareRequest, request.body);
      const side = (query: typeof first) => ({ sources: sourcesOf(query.pipeline), query });
      await answer(response, (engine, flag) => engine.compare(side(first), side(second), hub.catalog.sourceNames, flag.buffer));
    }),
  );

  router.post(
    '/measure',
    handle(async (request, response) => {
      const query = readBy(measureRequest, request.body);
      const sources = sourcesOf(query.pipeline);
      if (sources.length === 0) throw new ServerProblem('/pipeline', 'The pipeline names no collection that there is.');
      const flag = flagFor(response);
      response.json(unwrap(await hub.ask(flag, (engine) => engine.measure(sources, query, flag.buffer))));
    }),
  );

  router.post(
    '/parse',
    handle(async (request, response) => {
      const { pipeline } = readBy(parseRequest, request.body);
      sendJson(
        response,
        unwrap(
          await hub.engine.call((engine) => engine.parse(sourcesOf(pipeline), hub.catalog.sourceNames, hub.catalog.viewList, pipeline)),
        ),
      );
    }),
  );

  router.get(
    '/runs/:runId/rows',
    handle(async (request, response) => {
      const { offset, size } = readBy(rowsQuery, request.query);
      sendJson(response, unwrap(await hub.engine.call((engine) => engine.rows(part(request, 'runId'), offset, size))));
    }),
  );

  for (const format of ['ndjson', 'json', 'csv'] as const) {
    router.get(
      `/runs/:runId/rows.${format}`,
      handle(async (request, response) => {
        const runId = part(request, 'runId');
        const how = { format, guardsFormulas: readBy(formulasQuery, request.query).formulas === 'guard' };
        // What is no longer kept is told before anything of an answer has gone.
        const approximate = unwrap(await hub.engine.call((engine) => engine.approximationOf(runId)));
        if (approximate !== null) response.setHeader('Zesty-Sieve-Approximate', approximateHeader(approximate));
        response.type(contentTypes[format]).setHeader('Content-Disposition', `attachment; filename="rows.${format}"`);
        for (let offset = 0; !response.destroyed; offset += rowsAtOnce) {
          const { text, done } = unwrap(await hub.engine.call((engine) => engine.rowsPiece(runId, offset, rowsAtOnce, how)));
          await sendPiece(response, text);
          if (done) break;
        }
        response.end();
      }),
    );
  }

  router.post(
    '/runs/:runId/store',
    handle(async (request, response) => {
      const wanted = readBy(storeRequest, request.body);
      response.json(await storeRows(hub, part(request, 'runId'), wanted, onceOfJson(request), flagFor(response)));
    }),
  );

  router.get(
    '/pipelines',
    handle(async (_request, response) => {
      response.json({ pipelines: await hub.storage.call((storage) => storage.pipelines()) });
    }),
  );

  router.get(
    '/pipelines/:name',
    handle(async (request, response) => {
      const saved = (await hub.storage.call((storage) => storage.pipelines())).find(({ name }) => name === part(request, 'name'));
      if (saved === undefined) throw new ServerProblem('/not-found', `There is no saved pipeline ${part(request, 'name')}.`);
      response.json(saved);
    }),
  );

  router.put(
    '/pipelines/:name',
    handle(async (request, response) => {
      const name = readBy(pipelineName, part(request, 'name'));
      const { sql = null, view, parameters, guards, note, chart, ...written } = readBy(savePipeline, request.body);
      const pipeline = sql === null ? written.pipeline : await pipelineOfSql(hub, sql);
      await checkView(hub, name, pipeline, view, request.query.force === 'true');
      const body = {
        pipeline,
        sql,
        view,
        parameters: parameters ?? null,
        guards: guards ?? null,
        note: note ?? null,
        chart: chart ?? null,
      };
      const saved = unwrap(await hub.storage.call((storage) => storage.savePipeline(name, body), { once: onceOfJson(request) }));
      await hub.catalog.relistViews();
      hub.events.tell({ kind: 'pipelines' });
      response.json(saved);
    }),
  );

  router.patch(
    '/pipelines/:name',
    handle(async (request, response) => {
      const name = part(request, 'name');
      const { name: next } = readBy(renamePipeline, request.body);
      const saved = (await hub.storage.call((storage) => storage.pipelines())).find((one) => one.name === name);
      if (saved === undefined) throw new ServerProblem('/not-found', `There is no saved pipeline ${name}.`);
      if (saved.view) await checkView(hub, next, saved.pipeline, true, false);
      const rewritten = await rewrittenFor(hub, name, next);
      unwrap(await hub.storage.call((storage) => storage.renamePipeline(name, next, rewritten)));
      await hub.catalog.relistViews();
      hub.events.tell({ kind: 'pipelines' });
      response.json({ name: next, rewritten: rewritten.map((one) => one.name) });
    }),
  );

  router.delete(
    '/pipelines/:name',
    handle(async (request, response) => {
      const gone = part(request, 'name');
      if (request.query.force !== 'true') await refuseWhereUsed(hub, gone);
      const removed = unwrap(await hub.storage.call((storage) => storage.removePipeline(gone)));
      if (!removed) throw new ServerProblem('/not-found', `There is no saved pipeline ${part(request, 'name')}.`);
      await hub.catalog.relistViews();
      hub.events.tell({ kind: 'pipelines' });
      response.status(204).end();
    }),
  );

  return router;
}
