import { compileValue } from '../expressions/compile.ts';
import type { Context } from '../expressions/context.ts';
import type { NodeId } from '../language/places.ts';
import type { GroupAllStage, GroupStage, WhereStage } from '../language/stages/stage.ts';
import type { PlannedStage } from '../planner/logical.ts';
import { equalValues } from '../values/equality.ts';
import { readField } from '../values/fields.ts';
import type { Json, Value } from '../values/json.ts';
import { identityNames } from '../language/identityNames.ts';
import { identityText } from './identities.ts';
import type { Reading } from './reading.ts';
import { answered, type Answer } from './requests.ts';
import type { Ran, StepwiseRuns } from './stepwiseRuns.ts';
import { goesByPlace, traceConditions, type Trace, type TracedLine } from './traceDocument.ts';

/** How far a document has come. */
interface Followed {
  /** What its rows are made of: the collection, or the rows of the last group. */
  source: string;
  /** What has been done with that since. */
  since: PlannedStage[];
  /** Where it stands there. */
  position: number;
  rows: readonly Json[];
}

/** Follows one document through the lines of a pipeline: into several rows, to its partners, into its group. */
export async function followDocument(identity: string, runs: StepwiseRuns): Promise<Answer<Trace>> {
  const { collection, reading, from, stages, context } = runs;
  const names = identityNames(collection.identityPath);
  const { documents } = collection.store;
  const found = documents.findIndex((document) => document !== undefined && identityText(document, names) === identity);
  const at: Followed = { source: collection.name, since: [], position: found, rows: found < 0 ? [] : [documents[found]! as Json] };
  const lines: TracedLine[] = [];
  let droppedAt: number | undefined;
  const tell = (line: TracedLine): void => {
    lines.push(line);
    if (at.rows.length === 0 && line.outcome !== 'absent') droppedAt = line.line;
  };
  for (const { id, done } of byLine([from, ...stages], reading)) {
    const line = reading.lineOf(id);
    if (at.rows.length === 0) {
      if (lines.length === 0) droppedAt = line;
      tell({ line, outcome: 'absent', conditions: [] });
      continue;
    }
    const before = at.rows;
    const [only, ...more] = done;
    if (only === undefined || (only.stage.kind === 'from' && more.length === 0)) {
      tell({ line, outcome: 'kept', conditions: [], row: before[0]! });
    } else if (only.stage.kind === 'where' && more.length === 0) {
      tell(filtered(line, only as PlannedStage<WhereStage>, at, context));
    } else {
      const place = await through(done, at, runs);
      if (!place.ok) return place;
      const { rows } = at;
      const changed = rows.length > 0 && (rows.length !== before.length || !equalValues(rows[0], before[0]));
      const outcome = rows.length === 0 ? 'dropped' : changed ? 'changed' : 'kept';
      tell({ line, outcome, conditions: [], ...(place.value && { place: place.value }), ...(rows.length > 0 && { row: rows[0], rows: rows.length }) }); // prettier-ignore
    }
  }
  return answered({ identity, found: found >= 0, lines, droppedAt });
}

/** Stages by the line of the question that they work for: those of a view for the one that names it. */
function byLine(stages: readonly PlannedStage[], reading: Reading): { readonly id: NodeId; readonly done: PlannedStage[] }[] {
  const found: { readonly id: NodeId; readonly done: PlannedStage[] }[] = [];
  for (const one of stages) {
    const id = reading.askedStageOf(one.id);
    if (found.at(-1)?.id === id) found.at(-1)!.done.push(one);
    else found.push({ id, done: [one] });
  }
  return found;
}

/** A condition is tested on the rows that are there: its parts are told each for itself. */
function filtered(line: number, planned: PlannedStage<WhereStage>, at: Followed, context: Context): TracedLine {
  const { stage, id } = planned;
  const conditionsOf = (row: Json) => traceConditions(stage.condition, id, row, context);
  const conditions = conditionsOf(at.rows[0]!);
  at.rows = at.rows.filter((row, i) => (i === 0 ? conditions : conditionsOf(row)).every(({ held }) => held));
  at.since.push(planned);
  const { rows } = at;
  return { line, outcome: rows.length > 0 ? 'kept' : 'dropped', conditions, ...(rows.length > 0 && { row: rows[0], rows: rows.length }) };
}

/**
 * Where other rows decide what happens, stages are run up to here and the document is looked for.
 * @returns the place that it has, where one stage goes by places
 */
async function through(stages: readonly PlannedStage[], at: Followed, runs: StepwiseRuns): Promise<Answer<TracedLine['place']>> {
  const last = stages.at(-1)!;
  let ran: Ran | undefined;
  for (const one of stages) {
    const { stage } = one;
    if (stage.kind === 'from') continue;
    at.since.push(one);
    const isGroup = stage.kind === 'group' || stage.kind === 'groupAll';
    if (!isGroup && one !== last) continue;
    const before = isGroup ? await rowsBefore(at, runs, stages.length > 1) : undefined;
    if (before?.ok === false) return before;
    if (isGroup && at.rows.length === 0) return answered(undefined);
    const done = await runs.run(at.source, at.since);
    if (!done.ok) return done;
    ran = done.value;
    if (isGroup) intoGroup(stage, ran.rows, at, runs);
    else at.rows = ran.rows.filter((_, i) => ran!.positions[i] === at.position);
  }
  if (ran === undefined || stages.length > 1 || !goesByPlace(last)) return answered(undefined);
  return placeOf(last, ran, at, runs);
}

/** The rows that the document has before a group, where lines before it were only gone past. */
async function rowsBefore(at: Followed, runs: StepwiseRuns, wereGonePast: boolean): Promise<Answer<undefined>> {
  if (!wereGonePast) return answered(undefined);
  const done = await runs.run(at.source, at.since.slice(0, -1));
  if (!done.ok) return done;
  at.rows = done.value.rows.filter((_, i) => done.value.positions[i] === at.position);
  return answered(undefined);
}

/** Goes on from the rows of a group with the one that the first of a document's rows went to. */
function intoGroup(stage: GroupStage | GroupAllStage, groups: readonly Json[], at: Followed, runs: StepwiseRuns): void {
  const [row] = at.rows;
  at.position = stage.kind === 'groupAll' ? 0 : groups.findIndex((group) => isOfGroup(stage, group, row!, runs.context));
  at.rows = groups.slice(at.position, at.position < 0 ? 0 : at.position + 1);
  at.source = runs.keep(groups);
  at.since = [];
}

/** The place that a document has among the rows: of an order among those that come out, else among those that come in. */
async function placeOf({ stage }: PlannedStage, through: Ran, at: Followed, runs: StepwiseRuns): Promise<Answer<TracedLine['place']>> {
  let { positions } = through;
  if (stage.kind !== 'order') {
    const done = await runs.run(at.source, at.since.slice(0, -1));
    if (!done.ok) return answered(undefined);
    ({ positions } = done.value);
  }
  const place = positions.indexOf(at.position);
  return answered(place < 0 ? undefined : { at: place + 1, of: positions.length });
}

/** Whether a row of a group is that of the group to which another row went. */
function isOfGroup({ keys }: GroupStage, group: Json, row: Json, context: Context): boolean {
  return keys.every(({ expression, target }) =>
    equalValues(
      target.reduce<Value>((at, name) => readField(at, name), group),
      compileValue(expression)(row, context),
    ),
  );
}
