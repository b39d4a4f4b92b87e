import { keyOfAll } from '../../values/keys.ts';
import type { JsonObject } from '../../values/json.ts';
import { UniqueViolation } from '../kind.ts';
import type { OrderedIndex } from './orderedIndex.ts';

/**
 * What becomes of the documents that are there: they stay, those of the same identity go, or all of them go.
 */
export type StageMode = 'beside' | 'replacing' | 'instead';

/** A document on its way in: its identity's text, and the position of the one that is there under it. */
export interface Arriving {
  readonly document: JsonObject;
  readonly identity: string | undefined;
  readonly position: number | undefined;
}

/**
 * Asks unique indexes about documents that come in one after another and are not in the indexes yet. Each question
 * takes the time of a lookup, however many came before.
 */
export class UniqueStage {
  private readonly indexes: readonly OrderedIndex[];
  private readonly mode: StageMode;
  private readonly taken: readonly Set<string>[];
  /** Positions of documents that others take the place of. */
  private readonly leaving = new Set<number>();
  /** The keys that came with an identity, so that they go when another document of it comes. */
  private readonly cameWith = new Map<string, readonly (readonly string[])[]>();

  constructor(indexes: readonly OrderedIndex[], mode: StageMode) {
    this.indexes = indexes.filter(({ definition }) => definition.unique);
    this.mode = mode;
    this.taken = this.indexes.map(() => new Set());
  }

  /** Takes a document in; or says why it cannot be, and takes nothing. */
  take({ document, identity, position }: Arriving): UniqueViolation | undefined {
    const before = this.mode === 'replacing' && identity !== undefined ? this.cameWith.get(identity) : undefined;
    const keys = this.indexes.map((): string[] => []);
    for (const [i, index] of this.indexes.entries()) {
      for (const tuple of index.tuplesOf(document)) {
        const isThere = this.mode !== 'instead' && index.positionsOf({ fixed: tuple }).some((at) => !this.isLeaving(at, position));
        const key = keyOfAll(tuple);
        if (isThere || (this.taken[i]!.has(key) && !before?.[i]!.includes(key))) return new UniqueViolation(index.definition.name, tuple);
        keys[i]!.push(key);
      }
    }
    before?.forEach((gone, i) => gone.forEach((key) => this.taken[i]!.delete(key)));
    keys.forEach((came, i) => came.forEach((key) => this.taken[i]!.add(key)));
    if (this.mode === 'replacing') {
      if (identity !== undefined) this.cameWith.set(identity, keys);
      if (position !== undefined) this.leaving.add(position);
    }
    return undefined;
  }

  private isLeaving(at: number, position: number | undefined): boolean {
    return this.leaving.has(at) || (this.mode === 'replacing' && at === position);
  }
}
