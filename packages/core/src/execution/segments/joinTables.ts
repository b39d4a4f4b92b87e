import { compileValue } from '../../expressions/compile.ts';
import type { HashJoin, PhysicalStep } from '../../planner/physical.ts';
import type { Json } from '../../values/json.ts';
import { stillWorking, type Batch } from '../batch.ts';
import type { StepMeter } from '../meter.ts';
import { makesRows, ownedBytes, ownedByValue } from '../ownership.ts';
import type { Runtime } from '../runtime.ts';
import { JoinTable } from './joinTable.ts';
import type { Segment } from './segment.ts';

/** Builds the tables of a segment's joins, each at the place of its step. */
export function* builtTables(segment: Segment, runtime: Runtime): Generator<Batch, readonly (JoinTable | undefined)[]> {
  const tables: (JoinTable | undefined)[] = [];
  for (const step of segment.steps) tables.push(step.kind === 'hashJoin' ? yield* builtTable(step, runtime) : undefined);
  return tables;
}

function* builtTable(step: HashJoin, runtime: Runtime): Generator<Batch, JoinTable> {
  const { context, watch, meter: runMeter } = runtime;
  const { rightKeys, rightIsList, leftIsList } = step.match;
  const meter = runMeter.of(step);
  const read = rightKeys.map(compileValue);
  const bytesOf = makesRows(step.partners) ? ownedBytes(step.partners) : undefined;
  const table = new JoinTable(rightKeys.map((key) => ownedByValue(key, step.partners)));
  const [first] = read;
  const put = (number: number, partner: Json): void => {
    if (first !== undefined && read.length === 1 && !rightIsList) {
      table.putOne(number, first(partner, context));
      return;
    }
    const values = read.map((evaluate) => evaluate(partner, context));
    if (!rightIsList) table.put(number, values);
    else if (Array.isArray(values[0])) table.putEach(number, values[0]);
  };
  let owned = 0;
  for (const { rows } of runtime.open(step.partners)) {
    for (const partner of rows) {
      put(table.take(partner), partner);
      if (bytesOf !== undefined) owned += bytesOf(partner);
    }
    runMeter.hold(meter, table.held + owned - meter.held);
    watch.look(step);
    yield stillWorking;
  }
  for (const _ of table.settle(leftIsList)) {
    watch.look(step);
    yield stillWorking;
  }
  runMeter.hold(meter, table.held + owned - meter.held);
  return table;
}

/** Lets go of the tables. Partners that the run has made go on in the rows that came of them. */
export function releaseTables(segment: Segment, runtime: Runtime): void {
  const { meter } = runtime;
  const held = (step: PhysicalStep): StepMeter => meter.of(step);
  for (const step of segment.steps) {
    if (step.kind === 'hashJoin' && !makesRows(step.partners)) meter.hold(held(step), -held(step).held);
  }
}
