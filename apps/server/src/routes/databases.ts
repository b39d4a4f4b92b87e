import { Router, type NextFunction, type Request, type Response } from 'express';
import { copyCollection as copyRequest, namedDatabase, removeDatabase } from '@zesty-sieve/contract';
import type { Databases, OpenDatabase } from '../databases/databases.ts';
import { copyCollection, type CopyProgress, type Copying } from '../databases/copyCollection.ts';
import { restore } from '../databases/restore.ts';
import { asJob } from '../http/job.ts';
import { flagFor } from '../http/flagFor.ts';
import type { CancelFlag } from '../threads/cancelFlag.ts';
import { contentType, expectJson, handle, hasBody, jsonOf, part, readBy } from '../http/handler.ts';
import { ServerProblem } from '../problem.ts';
import { shareOf } from '../work.ts';

/** Databases, and every other call below the name of one. */
export function databaseRoutes(databases: Databases): Router {
  const router = Router();
  const bodyOf = async (request: Request): Promise<unknown> => {
    if (hasBody(request)) expectJson(request);
    return jsonOf(request);
  };

  router.get(
    '/databases',
    handle(async (_request, response) => {
      response.json({ databases: await databases.list(), folder: databases.folder.path });
    }),
  );
  router.post(
    '/databases',
    handle(async (request, response) => {
      response.status(201).json(await databases.create(readBy(namedDatabase, await bodyOf(request)).name));
    }),
  );
  router.patch(
    '/databases/:db',
    handle(async (request, response) => {
      response.json(await databases.rename(part(request, 'db'), readBy(namedDatabase, await bodyOf(request)).name));
    }),
  );
  router.delete(
    '/databases/:db',
    handle(async (request, response) => {
      await databases.remove(part(request, 'db'), readBy(removeDatabase, request.query).name);
      response.status(204).end();
    }),
  );
  router.post(
    '/databases/:db/copy-collection',
    handle(async (request, response) => {
      const name = part(request, 'db');
      const { collection, to, as } = readBy(copyRequest, await bodyOf(request));
      if (to === name) throw new ServerProblem('/request', 'It is copied into another database: name another in `to`.');
      const flag = flagFor(response);
      const [source, target] = [await databases.open(name), await databases.open(to)];
      const copying = { from: source.hub, to: target.hub, toName: to, collection, as: as ?? collection };
      response.status(201);
      await asJob(request, response, (onProgress) => using(source, () => using(target, () => copied(copying, flag, onProgress))));
    }),
  );
  router.post(
    '/databases/:db/restore',
    handle(async (request, response) => {
      const type = contentType(request);
      if (type !== 'application/vnd.sqlite3' && type !== 'application/octet-stream')
        throw new ServerProblem('/media-type', 'A backup is sent as application/vnd.sqlite3 or application/octet-stream.');
      response.json(await restore(databases, part(request, 'db'), request));
    }),
  );
  router.use('/databases/:db', (request, response, next) => {
    databases.open(part(request, 'db')).then((open) => within(open, open.api, request, response, next), next);
  });
  return router;
}

/** Works with a database that is not closed meanwhile. */
async function using<T>(open: OpenDatabase, work: () => Promise<T>): Promise<T> {
  open.active++;
  try {
    return await work();
  } finally {
    open.active--;
    open.lastUsedAt = Date.now();
  }
}

/** Answers by a database that is not closed before the answer has gone. */
export function within(open: OpenDatabase, router: Router, request: Request, response: Response, next: NextFunction): void {
  open.active++;
  response.once('close', () => {
    open.active--;
    open.lastUsedAt = Date.now();
  });
  router(request, response, next);
}

/** Copies a collection, which is on the list of what is under way in the database that it comes from. */
function copied(copying: Copying, flag: CancelFlag, onProgress: (progress: CopyProgress) => void): ReturnType<typeof copyCollection> {
  const work = { kind: 'copy', of: copying.collection, detail: copying.toName, cancel: () => flag.cancel() } as const;
  return copying.from.work.during(work, (come) =>
    copyCollection(copying, flag, (progress) => {
      come({ documents: progress.documents, share: shareOf(progress.documents, progress.of) });
      onProgress(progress);
    }),
  );
}
