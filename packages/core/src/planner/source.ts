import { compileCondition } from '../expressions/compile.ts';
import { makeContext, type Context } from '../expressions/context.ts';
import type { DocumentStore } from '../storage/store.ts';
import type { Json } from '../values/json.ts';
import { parametersIn } from '../language/tree.ts';
import { joined, type Conjunct } from './conjuncts.ts';
import type { PositionsIndex } from './positionsIndex.ts';
import { measuredOn, type IndexStatistics, type Sample } from './statistics.ts';

/** What the planner knows of a collection. */
export interface PlannedSource {
  readonly name: string;
  readonly identityPath: string;
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

  constructor(source: PlannedSource, parameters: Readonly<Record<string, Json>>) {
    this.source = source;
    this.parameters = parameters;
    this.context = makeContext(parameters);
  }

  /** Between 0 and 1; conditions that hold for no document of a partial sample get half a document's share. */
  of(conjuncts: readonly Conjunct[]): number {
    const condition = joined(conjuncts);
    if (condition === undefined) return 1;
    const sample = this.source.sample();
    const given = parametersIn(condition).map((name) => [name, this.parameters[name]]);
    const key = conjuncts.map(({ text }) => text).join('\n') + (given.length === 0 ? '' : JSON.stringify(given));
    return measuredOn(sample, key, (documents) => {
      const holds = compileCondition(condition);
      let count = 0;
      for (const document of documents) if (holds(document, this.context)) count++;
      return documents.length === 0 ? 1 : Math.max(count, sample.scale > 1 ? 0.5 : 0) / documents.length;
    });
  }
}
