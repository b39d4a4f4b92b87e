import { emitValue } from '../../expressions/emit.ts';
import type { TopNSort } from '../../planner/physical.ts';
import type { Json, Value } from '../../values/json.ts';
import { emitBound, type Bound } from './bound.ts';
import { compileSegment, type CompiledSegment } from './compileSegment.ts';
import { variablesOf } from './loop.ts';
import type { Segment } from './segment.ts';

/** What takes candidates: rows that do not come after the bound, with their positions and keys. */
export interface TopToFill {
  readonly bound: Bound;
  take(row: Json, position: number, keys: readonly Value[]): void;
}

const made = new WeakMap<Segment, CompiledSegment<TopToFill>>();

/** A loop that holds each row's first key against the bound before anything is made of it. */
export function compiledTopN({ keys }: TopNSort, segment: Segment): CompiledSegment<TopToFill> {
  let found = made.get(segment);
  if (found === undefined) {
    found = compileSegment<TopToFill>(segment, {
      prepare: 'const { bound } = into;',
      emit: (loop, row, position) => {
        const { emitter } = loop;
        const values: string[] = [];
        keys.forEach((key, k) => {
          values.push(emitValue(emitter, key.expression, variablesOf(row)));
          if (k === 0) emitBound(loop, key, values[0]!, 'bound');
        });
        emitter.line(`into.take(${row.object(emitter)}, ${position}, [${values.join(', ')}]);`);
      },
    });
    made.set(segment, found);
  }
  return found;
}
