import { Engine, IndexProblem, readDefinition, UniqueViolation, type IndexRequest } from '@zesty-sieve/core';
import { isSingle, parseConditionText, parseOrderKeyText, type Json } from '@zesty-sieve/core/language';
import { holds, value, type Scope } from './reference/expressions.ts';
import { equal, type Fields, type Value } from './reference/values.ts';

export const now = '2026-02-03T04:05:06.789Z';
export type CollectionName = 'c' | 'd';

/** A document put at a place of a collection, or taken from there. */
export interface Put {
  readonly position: number;
  readonly document: Fields | null;
}

/** What happens to the collections after they have got their first documents. */
export type Step =
  | { readonly kind: 'build'; readonly collection: CollectionName; readonly index: IndexRequest }
  | { readonly kind: 'apply'; readonly collection: CollectionName; readonly puts: readonly Put[] }
  | { readonly kind: 'reload' };

/** All that a question needs to be asked once more: as it stands in a file that replays. */
export interface Case {
  readonly c: readonly Fields[];
  readonly d: readonly Fields[];
  readonly steps: readonly Step[];
  readonly lines: readonly string[];
  readonly parameters: Readonly<Record<string, Json>>;
}

const pause = (): Promise<void> => Promise.resolve();

/** Collections in an engine, and beside it their documents as they should be. */
export class World {
  engine = newEngine();
  readonly documents: Record<CollectionName, (Fields | null)[]>;
  readonly indexes: { collection: CollectionName; name: string; index: IndexRequest }[] = [];

  private constructor(c: readonly Fields[], d: readonly Fields[]) {
    this.documents = { c: [...c], d: [...d] };
  }

  static async of({ c, d, steps }: Pick<Case, 'c' | 'd' | 'steps'>): Promise<World> {
    const world = new World(c, d);
    world.load();
    for (const step of steps) await world.take(step);
    return world;
  }

  private load(): void {
    this.engine = newEngine();
    for (const name of ['c', 'd'] as const) {
      const { store } = this.engine.define(name, '@.id');
      // As from a file: nothing is shared with what was there before.
      this.documents[name].forEach((document, position) => {
        if (document !== null) store.put(position, JSON.parse(JSON.stringify(document)) as Fields);
      });
    }
  }

  async take(step: Step): Promise<void> {
    if (step.kind === 'reload') {
      this.load();
      for (const { collection, index } of this.indexes) await this.build(collection, index);
    } else if (step.kind === 'apply') {
      if (this.isRefused(step)) return;
      for (const { position, document } of step.puts) {
        const list = this.documents[step.collection];
        while (list.length < position) list.push(null);
        list[position] = document;
      }
      await this.engine.collections.get(step.collection)?.apply(
        step.puts.map(({ position, document }) => ({
          position,
          document: document === null ? undefined : (JSON.parse(JSON.stringify(document)) as Fields),
        })),
      );
    } else {
      const name = await this.build(step.collection, step.index);
      if (name !== undefined) this.indexes.push({ collection: step.collection, name, index: step.index });
    }
  }

  /** Whether a unique index refuses what is to be put; as it has to, by a look at all documents. */
  private isRefused({ collection, puts }: Extract<Step, { kind: 'apply' }>): boolean {
    const there = this.engine.collections.get(collection);
    const changes = puts.map(({ position, document }) => ({
      position,
      before: there?.store.documents[position],
      after: document ?? undefined,
    }));
    const refused = there?.indexList.some((index) => index.violation(changes) !== undefined) ?? false;
    const after = [...this.documents[collection]];
    for (const { position, document } of puts) after[position] = document;
    const indexes = this.indexes.filter((one) => one.collection === collection && one.index.unique);
    const repeated = indexes.some(({ index }) =>
      hasRepeats(
        index,
        after.filter((one) => one !== null && one !== undefined),
      ),
    );
    if (refused !== repeated)
      throw new Error(`unique indexes ${refused ? 'refuse' : 'take'} what ${repeated ? 'repeats' : 'repeats nothing'}`);
    return refused;
  }

  /** Documents that are not unique have no unique index, and some keys are none. */
  private async build(collection: CollectionName, index: IndexRequest): Promise<string | undefined> {
    const repeats = index.unique === true && hasRepeats(index, this.data[collection]);
    try {
      const definition = readDefinition(index);
      const there = this.engine.collections.get(collection);
      if (there?.index(definition.name) !== undefined) return undefined;
      await there?.buildIndex(definition, pause);
    } catch (error) {
      if (error instanceof IndexProblem || (error instanceof UniqueViolation && repeats)) return undefined;
      throw error;
    }
    if (repeats) throw new Error(`a unique index takes what repeats: ${JSON.stringify(index)}`);
    return readDefinition(index).name;
  }

  get data(): Record<CollectionName, Fields[]> {
    const present = (list: readonly (Fields | null)[]) => list.filter((one) => one !== null);
    return { c: present(this.documents.c), d: present(this.documents.d) };
  }
}

/** Whether documents have the same keys twice: those without any have none, and each different element of an array has some. */
function hasRepeats({ keys, where }: IndexRequest, documents: readonly Fields[]): boolean {
  const read = (text: string) => {
    const found = parseOrderKeyText(text);
    return 'key' in found ? found.key.expression : undefined;
  };
  const covers = where === undefined ? undefined : parseConditionText(where);
  const seen: Value[][] = [];
  for (const document of documents) {
    const scope: Scope = { current: document, whole: document, partners: {}, parameters: {}, now };
    if (covers !== undefined && 'expression' in covers && !holds(covers.expression, scope)) continue;
    let tuples: Value[][] = [[]];
    for (const key of keys) {
      const expression = read(key);
      if (expression === undefined) return false;
      const several = expression.kind === 'path' && !isSingle(expression);
      const found = value(expression, scope);
      const values: Value[] = several
        ? (found as Json[]).filter((one, i, all) => all.findIndex((other) => equal(other, one)) === i)
        : [found];
      tuples = (values.length === 0 ? [undefined] : values).flatMap((one) => tuples.map((tuple) => [...tuple, one]));
    }
    for (const tuple of tuples) {
      if (tuple.every((one) => one === undefined)) continue;
      if (seen.some((other) => other.every((one, i) => equal(one, tuple[i])))) return true;
      seen.push(tuple);
    }
  }
  return false;
}

function newEngine(): Engine {
  return new Engine({ pause, newId: () => 'run', now: () => new Date(now) });
}
