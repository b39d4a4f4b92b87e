import { Router } from 'express';
import { pipelineName, renamePipeline, savePipeline } from '@zesty-sieve/contract';
import { handle, part, readBy } from '../http/handler.ts';
import { asJob } from '../http/job.ts';
import { onceOfJson } from '../http/once.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import { checkView, refuseWherePublished, refuseWhereUsed, rewrittenFor } from '../views.ts';
import { pipelineOfSql } from './sql.ts';

/** Saved pipelines, and the rows of those that are kept. */
export function pipelineRoutes(hub: Hub): Router {
  const router = Router();

  router.get(
    '/pipelines',
    handle(async (_request, response) => {
      const saved = await hub.storage.call((storage) => storage.pipelines());
      response.json({ pipelines: saved.map((one) => hub.materialized.withInfo(one, saved)) });
    }),
  );

  router.get(
    '/pipelines/:name',
    handle(async (request, response) => {
      const all = await hub.storage.call((storage) => storage.pipelines());
      const saved = all.find(({ name }) => name === part(request, 'name'));
      if (saved === undefined) throw new ServerProblem('/not-found', `There is no saved pipeline ${part(request, 'name')}.`);
      response.json(hub.materialized.withInfo(saved, all));
    }),
  );

  router.put(
    '/pipelines/:name',
    handle(async (request, response) => {
      const name = readBy(pipelineName, part(request, 'name'));
      const { sql = null, view, materialized, parameters, guards, note, chart, ...written } = readBy(savePipeline, request.body);
      if (materialized != null && !view)
        throw new ServerProblem('/request', 'Rows are kept of a view: save it as one that others can read.');
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
      if (materialized !== undefined || !view) await hub.materialized.keep(name, materialized?.refresh ?? null);
      hub.events.tell({ kind: 'pipelines' });
      response.json(hub.materialized.withInfo(saved, await hub.storage.call((storage) => storage.pipelines())));
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
      const rows = hub.catalog.find(name);
      unwrap(await hub.storage.call((storage) => storage.renamePipeline(name, next, rewritten)));
      await hub.catalog.relistAll();
      if (rows?.isView === true) await hub.engine.call((engine) => engine.forget(rows));
      hub.events.tell({ kind: 'pipelines' });
      response.json({ name: next, rewritten: rewritten.map((one) => one.name) });
    }),
  );

  router.post(
    '/pipelines/:name/refresh',
    handle(async (request, response) => {
      const name = part(request, 'name');
      if (!hub.catalog.keptViews.some((one) => one.name === name))
        throw new ServerProblem('/not-found', `The rows of ${name} are not kept: there is nothing to make anew.`);
      await asJob(request, response, async (onProgress) => {
        await hub.materialized.refresh(name, onProgress);
        return hub.materialized.infoOf(name, await hub.storage.call((storage) => storage.pipelines()))!;
      });
    }),
  );

  router.delete(
    '/pipelines/:name/refresh',
    handle((request, response) => {
      const name = part(request, 'name');
      if (!hub.materialized.cancel(name)) throw new ServerProblem('/not-found', `The rows of ${name} are not being made.`);
      response.status(204).end();
    }),
  );

  router.delete(
    '/pipelines/:name',
    handle(async (request, response) => {
      const gone = part(request, 'name');
      if (request.query.force !== 'true') {
        await refuseWhereUsed(hub, gone);
        await refuseWherePublished(hub, gone);
      }
      await hub.materialized.drop(gone);
      const removed = unwrap(await hub.storage.call((storage) => storage.removePipeline(gone)));
      if (!removed) throw new ServerProblem('/not-found', `There is no saved pipeline ${part(request, 'name')}.`);
      await hub.catalog.relistViews();
      hub.events.tell({ kind: 'pipelines' });
      response.status(204).end();
    }),
  );

  return router;
}
