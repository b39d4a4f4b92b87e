import { compileValue } from '../expressions/compile.ts';
import type { Context } from '../expressions/context.ts';
import type { GroupStage } from '../language/stages/stage.ts';
import { isStage, type PlannedStage } from '../planner/logical.ts';
import { equalValues } from '../values/equality.ts';
import { readField } from '../values/fields.ts';
import type { Json, JsonObject, Value } from '../values/json.ts';
import { keyOfAll } from '../values/keys.ts';
import { answered, type Answer, type QueryRequest } from './requests.ts';
import type { Runner } from './runner.ts';
import { StepwiseRuns } from './stepwiseRuns.ts';

export interface OriginsRequest extends QueryRequest {
  /** As the pipeline gives it. */
  readonly row: Json;
  /** Documents that are passed over, and that are given at most. */
  readonly offset: number;
  readonly size: number;
}

/** The documents that a row comes from, in insertion order. */
export interface Origins {
  readonly collection: string;
  readonly count: number;
  readonly documents: readonly JsonObject[];
  /** How many rows of the pipeline are like the one that was given; none where its documents have changed since. */
  readonly rows: number;
}

/**
 * The documents of the source that the rows like one come from: by the positions that rows have, and of a group by the rows that went
 * into it. What the rows were joined with is told by tracing one of the documents.
 */
export async function originsOf(request: OriginsRequest, runner: Runner, isCancelled: () => boolean): Promise<Answer<Origins>> {
  const { row, offset, size, ...asked } = request;
  const made = StepwiseRuns.of(asked, runner, { work: 'Looking for its documents', isCancelled });
  if (!made.ok) return made;
  const { collection, stages } = made.value;
  const found = await placesOf((one) => equalValues(one, row), collection.name, stages, made.value);
  if (!found.ok) return found;
  const { places, rows } = found.value;
  const inOrder = [...new Set(places)].sort((a, b) => a - b);
  const wanted = inOrder.slice(offset, offset + size).map((position) => collection.store.documents[position]);
  return answered({ collection: collection.name, count: inOrder.length, documents: wanted.filter((one) => one !== undefined), rows });
}

/** Where those of the rows of a source stand of which rows come that are asked for. */
async function placesOf(
  holds: (row: Json) => boolean,
  source: string,
  stages: readonly PlannedStage[],
  runs: StepwiseRuns,
): Promise<Answer<{ readonly places: readonly number[]; readonly rows: number }>> {
  const at = stages.findIndex(({ stage }) => stage.kind === 'group' || stage.kind === 'groupAll');
  if (at < 0) {
    const done = await runs.run(source, stages);
    if (!done.ok) return done;
    const { rows, positions } = done.value;
    const places = positions.filter((_, i) => holds(rows[i]!));
    return answered({ places, rows: places.length });
  }
  const grouped = await runs.run(source, stages.slice(0, at + 1));
  if (!grouped.ok) return grouped;
  const groups = grouped.value.rows;
  const found = await placesOf(holds, runs.keep(groups), stages.slice(at + 1), runs);
  if (!found.ok || found.value.places.length === 0) return found;
  const inside = await runs.run(source, stages.slice(0, at));
  if (!inside.ok) return inside;
  const group = stages[at]!;
  if (!isStage(group, 'group')) return answered({ places: inside.value.positions, rows: found.value.rows });
  const keys = new Set(found.value.places.map((place) => keyOfGroup(group.stage, groups[place]!)));
  const keyOf = keyOfRow(group.stage, runs.context);
  return answered({ places: inside.value.positions.filter((_, i) => keys.has(keyOf(inside.value.rows[i]!))), rows: found.value.rows });
}

function keyOfGroup({ keys }: GroupStage, row: Json): string {
  return keyOfAll(keys.map(({ target }) => target.reduce<Value>((at, name) => readField(at, name), row)));
}

function keyOfRow({ keys }: GroupStage, context: Context): (row: Json) => string {
  const values = keys.map(({ expression }) => compileValue(expression));
  return (row) => keyOfAll(values.map((value) => value(row, context)));
}
