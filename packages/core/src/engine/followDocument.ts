import type { NodeId } from '../language/places.ts';
import type { Reading } from './reading.ts';
import { compileValue } from '../expressions/compile.ts';
import type { Context } from '../expressions/context.ts';
import type { Guards } from '../execution/guards.ts';
import type { Run } from '../execution/run.ts';
import type { GroupStage } from '../language/stages/stage.ts';
import { equalValues } from '../values/equality.ts';
import { readField } from '../values/fields.ts';
import type { Json, Value } from '../values/json.ts';
import type { Collection } from './collection.ts';
import { identityNames, identityText } from './identities.ts';
import type { ReadStage } from './readPipeline.ts';
import { answered, type Answer } from './requests.ts';
import { TimeTogether } from './timeTogether.ts';
import { goesByPlace, traceConditions, type Trace, type TracedLine } from './traceDocument.ts';

/** What is followed through, and how it is run. */
export interface Following {
  readonly written: readonly ReadStage[];
  readonly collection: Collection;
  readonly isView: (name: string) => boolean;
  readonly context: Context;
  readonly reading: Reading;
  /** Of all runs together. */
  readonly guards: Partial<Guards> | undefined;
  /** Runs the pipeline up to a stage. */
  readonly runThrough: (stage: NodeId, guards: Partial<Guards>) => Promise<Answer<Run>>;
}

/** Follows one document through the lines of a pipeline: into several rows, to its partners, into its group. */
export async function followDocument(identity: string, following: Following): Promise<Answer<Trace>> {
  const { written, collection, isView, context, reading } = following;
  const time = new TimeTogether('Tracing', following.guards);
  const runThrough = async (stage: NodeId): Promise<Answer<Run>> => time.told(await following.runThrough(stage, time.left));
  const names = identityNames(collection.identityPath);
  const { documents } = collection.store;
  const found = documents.findIndex((document) => document !== undefined && identityText(document, names) === identity);
  const lines: TracedLine[] = [];
  /** Where its rows come from: the document, or from a group on the group's number. */
  let position = found;
  let rows: readonly Json[] = found < 0 ? [] : [documents[found]! as Json];
  let droppedAt: number | undefined;
  for (const planned of written) {
    const { stage, id } = planned;
    const line = reading.lineOf(id);
    if (rows.length === 0) {
      if (stage.kind === 'from') droppedAt = line;
      lines.push({ line, outcome: 'absent', conditions: [] });
      continue;
    }
    const before = rows[0]!;
    if (stage.kind === 'where') {
      const conditions = traceConditions(stage.condition, id, before, context);
      const ofRow = (row: Json) => (row === before ? conditions : traceConditions(stage.condition, id, row, context));
      rows = rows.filter((row) => ofRow(row).every(({ held }) => held));
      lines.push({
        line,
        outcome: rows.length > 0 ? 'kept' : 'dropped',
        conditions,
        ...(rows.length > 0 && { row: rows[0], rows: rows.length }),
      });
    } else if (stage.kind === 'from' && !isView(stage.source)) {
      lines.push({ line, outcome: 'kept', conditions: [], row: before });
    } else {
      // What other rows do decides here: the pipeline is run up to here and the document looked for.
      const through = await runThrough(id);
      if (!through.ok) return through;
      const run = through.value;
      const members = rows.length;
      if (stage.kind === 'group' || stage.kind === 'groupAll') {
        const at = stage.kind === 'groupAll' ? 0 : run.rows.findIndex((row) => isOfGroup(stage, row, before, context));
        rows = at < 0 ? [] : [run.rows[at]!];
        position = at < 0 ? -1 : run.positions[at]!;
      } else {
        rows = run.rows.filter((_, i) => run.positions[i] === position);
      }
      const place = position >= 0 && goesByPlace(planned) ? await placeOf(planned, { written, runThrough }, position, run) : undefined;
      const changed = rows.length > 0 && (rows.length !== members || !equalValues(rows[0], before));
      lines.push({
        line,
        outcome: rows.length === 0 ? 'dropped' : changed ? 'changed' : 'kept',
        conditions: [],
        ...(place && { place }),
        ...(rows.length > 0 && { row: rows[0], rows: rows.length }),
      });
    }
    if (rows.length === 0) droppedAt = line;
  }
  return answered({ identity, found: found >= 0, lines, droppedAt });
}

/** The place that a document has among the rows: of an order among those that come out, else among those that come in. */
async function placeOf(
  { stage, id }: ReadStage,
  { written, runThrough }: { readonly written: Following['written']; readonly runThrough: (stage: NodeId) => Promise<Answer<Run>> },
  position: number,
  through: Run,
): Promise<TracedLine['place']> {
  let run = through;
  if (stage.kind !== 'order') {
    const done = await runThrough(written.findLast((other) => other.id < id)?.id ?? id);
    if (!done.ok) return undefined;
    run = done.value;
  }
  const at = run.positions.indexOf(position);
  return at < 0 ? undefined : { at: at + 1, of: run.positions.length };
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
