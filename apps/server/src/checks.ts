import type { CheckState, CollectionCheck } from '@zesty-sieve/contract';
import type { Logger } from 'pino';
import type { Commits, WritePath } from './commits.ts';
import { ServerProblem, unwrap } from './problem.ts';
import { CancelFlag } from './threads/cancelFlag.ts';

/** What a check needs: both threads, and that nobody writes meanwhile. */
type CheckPath = Pick<WritePath, 'storage' | 'engine' | 'catalog' | 'events' | 'log'> & { readonly commits: Commits };

/** Checks of indexes against documents: one at a time for each collection, whoever asks for it. */
export class Checks {
  private readonly path: CheckPath;
  private readonly underWay = new Map<string, { flag: CancelFlag; done: Promise<CollectionCheck> }>();

  constructor(path: CheckPath) {
    this.path = path;
  }

  /** Runs a check, or waits for the one that is under way; what it finds is kept. */
  run(name: string): Promise<CollectionCheck> {
    const there = this.underWay.get(name);
    if (there !== undefined) return there.done;
    const collection = this.path.catalog.collection(name);
    const flag = new CancelFlag();
    const done = (async () => {
      try {
        const file = await this.path.storage.call((storage) => storage.checkFile(collection));
        const mended = [...file.mended, ...(await this.holdTogether(name))];
        const found = unwrap(
          await this.path.engine.call((engine) => engine.checkIndexes(this.path.catalog.collection(name), flag.buffer), { cancel: flag }),
        );
        const check = { ...found, sound: found.sound && file.sound, file: { ...file, mended } };
        unwrap(await this.path.storage.call((storage) => storage.keepCheck(collection.id, check)));
        if (check.indexes.some(({ rebuilt }) => rebuilt)) this.path.events.tell({ kind: 'indexes', collection: name });
        return check;
      } finally {
        this.underWay.delete(name);
      }
    })();
    this.underWay.set(name, { flag, done });
    return done;
  }

  /** What is in memory against the file, when nobody writes: where they differ, it is read again. */
  private holdTogether(name: string): Promise<string[]> {
    const { path } = this;
    return path.commits.quietly(name, async (collection) => {
      const inMemory = await path.engine.call((engine) => engine.countOf(collection));
      if (inMemory === null || inMemory === collection.count) return [];
      await path.engine.call((engine) => engine.forget(collection));
      return [`${inMemory} documents were in memory, and the file has ${collection.count}: they were read again`];
    });
  }

  /** @throws ServerProblem where none is under way */
  cancel(name: string): void {
    const there = this.underWay.get(name);
    if (there === undefined) throw new ServerProblem('/not-found', `No check of ${name} is under way.`);
    there.flag.cancel();
  }

  async state(name: string): Promise<CheckState> {
    const { id } = this.path.catalog.collection(name);
    const [running, last] = await Promise.all([
      this.underWay.has(name) ? this.path.engine.call((engine) => engine.checkProgress(name)) : null,
      this.path.storage.call((storage) => storage.lastCheck(id)),
    ]);
    return { running, last };
  }

  /** Checks collections that an earlier version has written, once, one after another; says what it found. */
  async runPending(log: Logger): Promise<void> {
    for (const { name } of this.path.catalog.stored.filter(({ checked, count }) => !checked && count > 0)) {
      try {
        const { sound, problems } = await this.run(name);
        if (!sound) log.warn({ collection: name, problems }, 'the check of a collection from an earlier version found something');
      } catch (error) {
        log.error({ err: error, collection: name }, 'a collection from an earlier version could not be checked');
      }
    }
  }
}
