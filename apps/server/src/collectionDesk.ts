import type { CollectionInfo } from '@zesty-sieve/contract';
import { infoOf } from './catalog.ts';
import type { Commits, WritePath } from './commits.ts';
import { unwrap, ServerProblem } from './problem.ts';
import type { Once } from './threads/messages.ts';

/** Makes, renames, empties and removes collections. */
export class CollectionDesk {
  private readonly path: WritePath;
  private readonly commits: Commits;

  constructor(path: WritePath, commits: Commits) {
    this.path = path;
    this.commits = commits;
  }

  async create(name: string, identity: string, scratch: boolean, once?: Once): Promise<CollectionInfo> {
    if (this.path.catalog.isView(name)) throw new ServerProblem('/exists', `There is a view ${name} already.`);
    const made = unwrap(await this.path.storage.call((storage) => storage.createCollection(name, identity, scratch), { once }));
    await this.path.catalog.relist();
    this.path.events.tell({ kind: 'collections' });
    return this.path.catalog.list().find((one) => one.name === name) ?? made;
  }

  async rename(name: string, next: string, once?: Once): Promise<CollectionInfo> {
    await this.commits.commit({
      collection: name,
      once,
      kind: 'collections',
      store: async ({ id }) =>
        unwrap(await this.path.storage.call((storage) => storage.renameCollection(id, next), { once, isLong: true })),
      follow: (engine, _stored, collection) => engine.forget(collection),
    });
    return infoOf(this.path.catalog.collection(next));
  }

  /** Gives an empty collection another identity. */
  async setIdentity(name: string, identity: string): Promise<void> {
    await this.commits.commit({
      collection: name,
      kind: 'collections',
      store: async ({ id }) => unwrap(await this.path.storage.call((storage) => storage.setIdentity(id, identity))),
      follow: (engine, _stored, collection) => engine.forget(collection),
    });
  }

  /** Removes all documents of a collection. */
  async clear(name: string, once?: Once): Promise<number> {
    const removed = await this.commits.commit({
      collection: name,
      once,
      store: async ({ id }) => unwrap(await this.path.storage.call((storage) => storage.clearCollection(id), { once, isLong: true })),
      follow: (engine, _stored, collection) => engine.forget(collection),
    });
    this.giveBack();
    return removed;
  }

  async remove(name: string, once?: Once): Promise<void> {
    await this.commits.commit({
      collection: name,
      once,
      kind: 'collections',
      store: async ({ id }) => unwrap(await this.path.storage.call((storage) => storage.removeCollection(id), { once, isLong: true })),
      follow: (engine, _stored, collection) => engine.forget(collection),
    });
    this.giveBack();
  }

  /** Lets the file become smaller, when there is time. */
  private giveBack(): void {
    this.path.storage
      .call((storage) => storage.giveBack())
      .catch((error: unknown) => this.path.log.warn({ err: error }, 'no space was given back'));
  }
}
