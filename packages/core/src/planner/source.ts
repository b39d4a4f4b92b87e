import { compileCondition } from '../expressions/compile.ts';
import { makeContext, type Context } from '../expressions/context.ts';
import type { DocumentStore } from '../storage/store.ts';
import type { Json } from '../values/json.ts';
import { parametersIn } from '../language/tree.ts';
import type { Conjunct } from './conjuncts.ts';
import type { PositionsIndex } from './positionsIndex.ts';
import { heldOn, type IndexStatistics, type Sample } from './statistics.ts';

/** What the planner knows of a collection. */
export interface PlannedSource {
  readonly name: string;
  readonly identityPath: string;
  /** Whether it is the rows of a materialized view. */
  readonly isView?: boolean;
  readonly store: DocumentStore;
  /** Those whose entries stand in the order of their keys. */
  readonly indexes: readonly IndexStatistics[];
  /** Those of other kinds. */
  readonly others: readonly PositionsIndex[];
  readonly sample: () => Sample;
}

/** More conditions than these are looked at on a part of the sample: so many documents, in whole words of 32 bits. */
const manyConditions = 200;
const fewDocuments = 256;

/** Shares of a collection's documents for which conditions hold, measured on its sample. */
export class Selectivity {
  private readonly source: PlannedSource;
  private readonly context: Context;
  private readonly parameters: Readonly<Record<string, Json>>;
  private readonly known = new Map<Conjunct, { readonly looked: number; readonly bits: Uint32Array }>();

  constructor(source: PlannedSource, parameters: Readonly<Record<string, Json>>) {
    this.source = source;
    this.parameters = parameters;
    this.context = makeContext(parameters);
  }

  /** Between 0 and 1; conditions that hold for no document of a partial sample get half a document's share. */
  of(conjuncts: readonly Conjunct[]): number {
    return conjuncts.length === 0 ? 1 : this.along([conjuncts])[0]!;
  }

  /** The share that is left after each of several lists of conditions that follow each other. */
  along(lists: readonly (readonly Conjunct[])[]): number[] {
    const sample = this.source.sample();
    const { length } = sample.documents;
    if (length === 0) return lists.map(() => 1);
    // Of very many conditions each is looked at on fewer documents: the planner is not to take longer than what it plans.
    const isMany = lists.reduce((sum, conjuncts) => sum + conjuncts.length, 0) > manyConditions;
    const looked = isMany ? Math.min(fewDocuments, length) : length;
    const least = sample.scale > 1 || looked < length ? 0.5 : 0;
    // What several keep together is what each keeps, put together: a thousand lines are looked at once each.
    let together: Uint32Array | undefined;
    return lists.map((conjuncts) => {
      for (const conjunct of conjuncts) {
        const bits = this.held(conjunct, sample, looked);
        if (together === undefined) together = bits.slice(0, Math.ceil(looked / 32));
        else for (let word = 0; word < together.length; word++) together[word]! &= bits[word]!;
      }
      return together === undefined ? 1 : Math.max(countIn(together), least) / looked;
    });
  }

  /** For which documents of the sample a condition holds, a bit each: at least of those that are to be looked at. */
  private held(conjunct: Conjunct, sample: Sample, looked: number): Uint32Array {
    const known = this.known.get(conjunct);
    let bits = known !== undefined && known.looked >= looked ? known.bits : undefined;
    if (bits === undefined) {
      const given = parametersIn(conjunct.expression).map((name) => [name, this.parameters[name]]);
      const key = conjunct.text + (given.length === 0 ? '' : JSON.stringify(given));
      bits = heldOn(sample, key, looked, () => {
        const holds = compileCondition(conjunct.expression);
        return (document) => holds(document, this.context);
      });
      this.known.set(conjunct, { looked, bits });
    }
    return bits;
  }
}

function countIn(bits: Uint32Array): number {
  let count = 0;
  for (const word of bits) count += bitsIn(word);
  return count;
}

/** How many bits of a word are set. */
function bitsIn(word: number): number {
  const pairs = word - ((word >>> 1) & 0x55555555);
  const fours = (pairs & 0x33333333) + ((pairs >>> 2) & 0x33333333);
  return Math.imul((fours + (fours >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}
