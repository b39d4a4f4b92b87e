import { collectionName } from '@zesty-sieve/contract';
import { checkPipeline, namedSources, viewsRead, withSource, withSqlSource, usualSurface } from '@zesty-sieve/core/language';
import type { Hub } from './hub.ts';
import { ServerProblem } from './problem.ts';

/**
 * Whether a pipeline can be saved as a view: others read it by its name, so it needs one that can be written, and it
 * may not come back to itself.
 * @throws ServerProblem
 */
export async function checkView(hub: Hub, name: string, pipeline: string, isView: boolean, isForced: boolean): Promise<void> {
  if (!isView) {
    if (!isForced && hub.catalog.everyView.has(name)) await refuseWhereUsed(hub, name);
    return;
  }
  const named = collectionName.safeParse(name);
  if (!named.success) throw new ServerProblem('/request', `A view is written after from. ${named.error.issues[0]!.message}`);
  if (hub.catalog.find(name)?.isView === false)
    throw new ServerProblem('/exists', `There is a collection ${name} already. A view needs a name of its own.`);
  const views = new Map([...hub.catalog.everyView, [name, { pipeline }] as const]);
  if (viewsRead(pipeline, views).has(name)) {
    throw new ServerProblem('/pipeline', `${name} would read itself, directly or through other views.`, { diagnostics: [] });
  }
  const { diagnostics } = checkPipeline(usualSurface.parse(pipeline), { collections: [...hub.catalog.sourceNames, name] });
  const errors = diagnostics.filter(({ severity }) => severity === 'error');
  if (errors.length > 0)
    throw new ServerProblem('/pipeline', `A view with errors cannot be read: line ${errors[0]!.line}: ${errors[0]!.message}`, {
      diagnostics: errors,
    });
}

/** The saved pipelines that read a view, with their text as it is when the view has another name. */
export async function rewrittenFor(
  hub: Hub,
  name: string,
  next: string,
): Promise<{ name: string; pipeline: string; sql: string | null }[]> {
  if (!hub.catalog.everyView.has(name)) return [];
  const saved = await hub.storage.call((storage) => storage.pipelines());
  return saved.flatMap((one) => {
    const pipeline = withSource(one.pipeline, name, next);
    const sql = one.sql === null ? null : withSqlSource(one.sql, name, next);
    return one.name === name || pipeline === one.pipeline ? [] : [{ name: one.name, pipeline, sql }];
  });
}

/** @throws ServerProblem where other saved pipelines read it */
export async function refuseWhereUsed(hub: Hub, name: string): Promise<void> {
  if (!hub.catalog.everyView.has(name)) return;
  const saved = await hub.storage.call((storage) => storage.pipelines());
  const users = saved.filter((one) => one.name !== name && namedSources(one.pipeline).includes(name)).map((one) => one.name);
  if (users.length > 0) {
    throw new ServerProblem('/in-use', `${name} is read by ${users.join(', ')}. They would no longer run without it.`, { users });
  }
}

/** @throws ServerProblem where others are answered by it */
export async function refuseWherePublished(hub: Hub, pipeline: string): Promise<void> {
  const publications = await hub.publisher.of(pipeline);
  if (publications.length === 0) return;
  const named = publications.join(', ');
  throw new ServerProblem('/in-use', `${pipeline} is published as ${named}, which would no longer be answered.`, { publications });
}
