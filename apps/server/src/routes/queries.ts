import { Router, type Response } from 'express';
import { flagFor } from '../http/flagFor.ts';
import { onceOfJson } from '../http/once.ts';
import type { CancelFlag } from '../threads/cancelFlag.ts';
import { storeRows } from '../storeRows.ts';
import {
  compareRequest,
  formulasQuery,
  countRequest,
  originsRequest,
  traceRequest,
  measureRequest,
  parseRequest,
  planQuery,
  planRequest,
  queryRequest,
  rowsQuery,
  storeRequest,
} from '@zesty-sieve/contract';
import { approximateHeader, approximateText } from '../http/saidOfRows.ts';
import type { OriginsRequest } from '@zesty-sieve/core';
import { handle, part, readBy, sendJson } from '../http/handler.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap, type Reply } from '../problem.ts';
import type { EngineService } from '../engine/engineService.ts';
import type { StoredCollection } from '../storage/stored.ts';
import type { Remote } from '../threads/thread.ts';
import { contentTypes, sendPiece } from './transfer.ts';

const rowsAtOnce = 1_000;

export function queryRoutes(hub: Hub): Router {
  const router = Router();
  const sourcesOf = (pipeline: string): StoredCollection[] => hub.catalog.sourcesFor(pipeline);
  /** The same for what reads their rows: those of views have been made. */
  const readSources = async (pipeline: string, timeMs?: number): Promise<StoredCollection[]> => {
    await hub.materialized.ready(sourcesOf(pipeline), timeMs);
    return sourcesOf(pipeline);
  };

  router.post(
    '/query',
    handle(async (request, response) => {
      const query = readBy(queryRequest, request.body);
      const flag = flagFor(response);
      const asked = { ...query, guards: { ...hub.guards, ...query.guards } };
      const sources = await readSources(query.pipeline, asked.guards.timeMs);
      const {
        answer: answered,
        kept,
        read,
      } = await hub.ask(flag, (engine) => engine.query(sources, hub.catalog.sourceNames, asked, flag.buffer));
      if (kept !== null) hub.runLog.add(kept);
      hub.materialized.uses.add(read);
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
      const sources = await readSources(query.pipeline);
      await answer(response, (engine, flag) => engine.counts(sources, hub.catalog.sourceNames, query, flag.buffer));
    }),
  );

  router.post(
    '/trace',
    handle(async (request, response) => {
      const query = readBy(traceRequest, request.body);
      const asked = { ...query, identity: String(query.identity) };
      const sources = hub.catalog.sourcesThrough(query.pipeline);
      await answer(response, (engine, flag) => engine.trace(sources, hub.catalog.sourceNames, asked, flag.buffer));
    }),
  );

  router.post(
    '/origins',
    handle(async (request, response) => {
      const query = readBy(originsRequest, request.body) as OriginsRequest;
      const sources = hub.catalog.sourcesThrough(query.pipeline);
      await answer(response, (engine, flag) => engine.origins(sources, hub.catalog.sourceNames, query, flag.buffer));
    }),
  );

  router.post(
    '/compare',
    handle(async (request, response) => {
      const { first, second } = readBy(compareRequest, request.body);
      const side = async (query: typeof first) => ({ sources: await readSources(query.pipeline), query });
      const sides = [await side(first), await side(second)] as const;
      await answer(response, (engine, flag) => engine.compare(...sides, hub.catalog.sourceNames, flag.buffer));
    }),
  );

  router.post(
    '/measure',
    handle(async (request, response) => {
      const query = readBy(measureRequest, request.body);
      const sources = await readSources(query.pipeline);
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
        if (approximate !== null) response.setHeader(approximateHeader, approximateText(approximate));
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

  return router;
}
