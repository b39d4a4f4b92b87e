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

/** Shares of a collection's documents for which conditions hold, measured on its sample. */
export class Selectivity {
  private readonly source: PlannedSource;
  private readonly context: Context;
  private readonly parameters: Readonly<Record<string, Json>>;
  private readonly known = new Map<Conjunct, Uint32Array>();

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
    // What several keep together is what each keeps, put together: a thousand lines are looked at once each.
    let together: Uint32Array | undefined;
    return lists.map((conjuncts) => {
      for (const conjunct of conjuncts) {
        const bits = this.held(conjunct, sample);
        if (together === undefined) together = bits.slice();
        else for (let word = 0; word < together.length; word++) together[word]! &= bits[word]!;
      }
      return together === undefined ? 1 : Math.max(countIn(together), sample.scale > 1 ? 0.5 : 0) / length;
    });
  }

  private held(conjunct: Conjunct, sample: Sample): Uint32Array {
    let bits = this.known.get(conjunct);
    if (bits === undefined) {
      const given = parametersIn(conjunct.expression).map((name) => [name, this.parameters[name]]);
      const key = conjunct.text + (given.length === 0 ? '' : JSON.stringify(given));
      bits = heldOn(sample, key, () => {
        const holds = compileCondition(conjunct.expression);
        return (document) => holds(document, this.context);
      });
      this.known.set(conjunct, bits);
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
