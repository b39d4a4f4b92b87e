import { emitValue } from '../../expressions/emit.ts';
import type { Rank } from '../../planner/physical.ts';
import type { Json, Value } from '../../values/json.ts';
import { emitBound, type Bound } from './bound.ts';
import { compileSegment, type CompiledSegment } from './compileSegment.ts';
import { variablesOf } from './loop.ts';
import type { Segment } from './segment.ts';

/** The rows of one partition that are kept so far. */
export interface PartitionToFill {
  readonly bound: Bound;
}

/** What takes candidates, each into its partition: rows that do not come after the bound there. */
export interface BestToFill {
  readonly partitionOf: (...keys: Value[]) => PartitionToFill;
  take(partition: PartitionToFill, row: Json, position: number, keys: readonly Value[]): void;
}

const made = new WeakMap<Segment, CompiledSegment<BestToFill>>();

/** A loop that finds each row's partition and holds its first key against the bound there, before anything is made of it. */
export function compiledBest({ partition, keys }: Rank, segment: Segment): CompiledSegment<BestToFill> {
  let found = made.get(segment);
  if (found === undefined) {
    found = compileSegment<BestToFill>(segment, {
      prepare: 'const { partitionOf } = into;',
      emit: (loop, row, position) => {
        const { emitter } = loop;
        const variables = variablesOf(row);
        const parts = partition.map((expression) => emitValue(emitter, expression, variables));
        const own = emitter.variable(`partitionOf(${parts.join(', ')})`);
        const bound = emitter.variable(`${own}.bound`);
        const values: string[] = [];
        keys.forEach((key, k) => {
          values.push(emitValue(emitter, key.expression, variables));
          if (k === 0) emitBound(loop, key, values[0]!, bound);
        });
        emitter.line(`into.take(${own}, ${row.object(emitter)}, ${position}, [${values.join(', ')}]);`);
      },
    });
    made.set(segment, found);
  }
  return found;
}
