import { Router } from 'express';
import {
  baselineRequest,
  pairRequest,
  runListQuery,
  settingsChange,
  whatIfRequest,
  type Advice,
  type WhatIfAnswer,
} from '@zesty-sieve/contract';
import type { MayBeKept } from '../engine/services/keeping.ts';
import { idleViews } from '../materialized/idleViews.ts';
import { adviseViews } from '../materialized/adviseViews.ts';
import { coveredBy } from '../told/covered.ts';
import { handle, part, readBy, sendJson } from '../http/handler.ts';
import { flagFor } from '../http/flagFor.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';

/** Runs under this number say little about which indexes are of no use. */
const runsToJudge = 10;

/** What was asked before, what it cost, and what that says about indexes; and the settings of runs. */
export function historyRoutes(hub: Hub): Router {
  const router = Router();

  router.get(
    '/runs',
    handle(async (request, response) => {
      const query = readBy(runListQuery, request.query);
      await hub.runLog.settle();
      const list = await hub.storage.call((storage) => storage.runs(query));
      const { trouble } = hub.runLog;
      response.json({ ...list, ...(trouble && { unwritten: trouble }) });
    }),
  );

  router.get(
    '/runs/:runId',
    handle(async (request, response) => {
      await hub.runLog.settle();
      sendJson(response, unwrap(await hub.storage.call((storage) => storage.run(part(request, 'runId')))));
    }),
  );

  router.put(
    '/pipelines/:name/baseline',
    handle(async (request, response) => {
      const { runId } = readBy(baselineRequest, request.body);
      await hub.runLog.settle();
      unwrap(await hub.storage.call((storage) => storage.setBaseline(part(request, 'name'), runId)));
      hub.events.tell({ kind: 'runs' });
      response.status(204).end();
    }),
  );

  router.post(
    '/measure/pair',
    handle(async (request, response) => {
      const { first, second, times } = readBy(pairRequest, request.body);
      const sources = [...new Set([first, second].flatMap(({ pipeline }) => hub.catalog.sourcesFor(pipeline)))];
      await hub.materialized.ready(sources);
      const flag = flagFor(response);
      response.json(unwrap(await hub.ask(flag, (engine) => engine.measurePair(sources, first, second, times, flag.buffer))));
    }),
  );

  router.get(
    '/advice',
    handle(async (_request, response) => {
      await hub.runLog.settle();
      const asked = (await hub.storage.call((storage) => storage.askedBefore())).filter(({ runs }) => runs > 0);
      const sources = [...new Set(asked.flatMap(({ pipeline }) => hub.catalog.sourcesFor(pipeline)))];
      const keptTexts = hub.catalog.keptViews.flatMap(({ name }) => hub.catalog.everyView.get(name)?.pipeline ?? []);
      const build = unwrap(await hub.engine.call((engine) => engine.advise(sources, asked)));
      const advice: Advice = {
        runs: asked.reduce((sum, { runs }) => sum + runs, 0),
        build,
        unused: [],
        covered: [],
        views: await adviseViews(asked, keptTexts, (pipeline) =>
          hub.engine
            .call((engine) => engine.follows(hub.catalog.sourcesFor(pipeline), hub.catalog.sourceNames, { pipeline }))
            .then(unwrap)
            // What it reads may have gone, or not be in memory together: it is advice, no more.
            .catch(() => ({ follows: 'what it reads cannot be read now', followCosts: [] })),
        ),
        idleViews: await idleViews(hub),
      };
      for (const collection of sources) {
        const [indexes, use] = await Promise.all([
          hub.engine.call((engine) => engine.indexes(collection)).then(unwrap),
          hub.storage.call((storage) => storage.indexUse(collection.id)),
        ]);
        const used = new Map(use.map((one) => [one.name, one.runs]));
        const { total } = await hub.storage.call((storage) =>
          storage.runs({ order: 'recent', collection: collection.name, offset: 0, size: 1 }),
        );
        for (const one of indexes) {
          const { name: index, keys, bytes, createdAt } = one;
          // A unique index keeps its promise without ever being read.
          if (createdAt === null || (one.kind === 'ordered' && one.unique) || used.has(index) || total < runsToJudge) continue;
          advice.unused.push({ collection: collection.name, index, keys, bytes, runsSince: total });
        }
        for (const { index, by } of coveredBy(indexes.filter((one) => one.kind === 'ordered'))) {
          const { keys = [], bytes = 0 } = indexes.find(({ name }) => name === index) ?? {};
          advice.covered.push({ collection: collection.name, index, keys, by, bytes });
        }
      }
      response.json(advice);
    }),
  );

  router.get(
    '/collections/:c/indexes/:name/users',
    handle(async (request, response) => {
      const collection = hub.catalog.collection(part(request, 'c'));
      await hub.runLog.settle();
      const asked = (await hub.storage.call((storage) => storage.askedBefore())).filter(({ pipeline }) =>
        hub.catalog.sourcesFor(pipeline).some(({ name }) => name === collection.name),
      );
      const sources = [...new Set(asked.flatMap(({ pipeline }) => hub.catalog.sourcesFor(pipeline)))];
      sendJson(response, unwrap(await hub.engine.call((engine) => engine.indexUsers(collection, part(request, 'name'), sources, asked))));
    }),
  );

  router.get(
    '/collections/:c/indexes/:name/summary',
    handle(async (request, response) => {
      const collection = hub.catalog.collection(part(request, 'c'));
      sendJson(response, unwrap(await hub.engine.call((engine) => engine.indexSummary(collection, part(request, 'name')))));
    }),
  );

  router.post(
    '/what-if',
    handle(async (request, response) => {
      const { indexes, views } = readBy(whatIfRequest, request.body);
      if (indexes.length + views.length === 0)
        throw new ServerProblem('/request', 'Name an index that might be built, or lines whose rows might be kept.');
      for (const { collection } of indexes) hub.catalog.collection(collection);
      await hub.runLog.settle();
      const about = new Set(indexes.map(({ collection }) => collection));
      for (const { pipeline } of views) for (const { name } of hub.catalog.sourcesFor(pipeline)) about.add(name);
      const asked = (await hub.storage.call((storage) => storage.askedBefore())).filter(({ pipeline }) =>
        hub.catalog.sourcesFor(pipeline).some(({ name }) => about.has(name)),
      );
      const sources = [
        ...new Set(asked.flatMap(({ pipeline }) => hub.catalog.sourcesFor(pipeline))),
        ...indexes.map((one) => hub.catalog.collection(one.collection)),
      ];
      const told = unwrap(await hub.engine.call((engine) => engine.whatIf(sources, indexes, asked)));
      const flag = flagFor(response);
      const kept: WhatIfAnswer['views'] = [];
      for (const view of views) {
        const read = [...new Set([...sources, ...hub.catalog.sourcesFor(view.pipeline)])];
        await hub.materialized.ready(read);
        kept.push(
          unwrap(
            await hub.ask(flag, (engine) =>
              engine.whatIfKept(read, hub.catalog.sourceNames, { ...view, guards: hub.guards } as MayBeKept, asked, flag.buffer),
            ),
          ),
        );
      }
      response.json({ runs: asked.reduce((sum, { runs }) => sum + runs, 0), ...told, views: kept });
    }),
  );

  router.get(
    '/settings',
    handle(async (_request, response) => {
      response.json(await hub.storage.call((storage) => storage.settings()));
    }),
  );

  router.put(
    '/settings',
    handle(async (request, response) => {
      const changed = unwrap(await hub.storage.call((storage) => storage.setSettings(readBy(settingsChange, request.body))));
      hub.guards = changed.guards;
      response.json(changed);
    }),
  );

  return router;
}
