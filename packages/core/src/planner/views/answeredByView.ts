import { walk } from '../../language/tree.ts';
import { expressionsOf } from '../../language/checkPipeline.ts';
import { relevanceCalls } from '../../language/relevancePlace.ts';
import type { Weighed } from '../explain/reasons.ts';
import { isStage, type PlannedStage } from '../logical.ts';
import { inputsOf, type LineSource, type PhysicalPlan, type PhysicalStep } from '../physical.ts';
import { planCost } from '../planCost.ts';
import { PlanToldWhenRead, type Planned } from '../planned.ts';
import { matchView, type ViewMatch } from './matchView.ts';
import type { KeptView } from './keptView.ts';

const whole = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });

/** Why a pipeline's rows are not for other questions, whatever they are made of: they would differ when made again. */
export function goesByItself(stages: readonly PlannedStage[]): string | undefined {
  for (const { stage } of stages) {
    if (stage.kind === 'mark') continue;
    if (stage.kind === 'sample') return 'its rows are a sample';
    if (stage.kind === 'best' && stage.effort !== undefined) return 'its rows may lack some of the best';
    let isTimed = false;
    for (const expression of expressionsOf(stage))
      walk(expression, (node) => void (isTimed ||= node.kind === 'call' && node.name === 'now'));
    if (isTimed) return 'its rows are of the time at which they were made';
  }
  return undefined;
}

/**
 * A plan that reads the rows of a materialized view where the question begins with what it has kept, and that costs less than what
 * is planned; every view that begins with the same source is told among the ways.
 * @param question with its own views in their places
 * @param planUpon plans stages whose source is a view
 */
export function answeredByView(
  question: readonly PlannedStage[],
  views: readonly KeptView[],
  planned: Planned,
  planUpon: (stages: readonly PlannedStage[], view: KeptView) => Planned,
): Planned {
  const told: Weighed[] = [];
  let best: { readonly planned: Planned; readonly cost: number; readonly view: KeptView; readonly match: ViewMatch } | undefined;
  const written = planCost(planned.physical.root);
  for (const view of views) {
    if (view.stages === undefined || !beginsAlike(question, view.stages)) continue;
    const match = withoutLostWords(matchView(question, view.stages, view.keepsSums));
    const reason = typeof match === 'string' ? match : view.unusable;
    if (typeof match === 'string' || reason !== undefined) {
      told.push(wayOf(view, question[0]!, { reason: reason ?? '', chosen: false }));
      continue;
    }
    const upon = planUpon([named(match.from, view.name), ...match.rest], view);
    const cost = planCost(upon.physical.root);
    if (cost < (best?.cost ?? written)) best = { planned: upon, cost, view, match };
    else told.push(wayOf(view, question[0]!, { reason: 'reading its rows costs more', chosen: false, cost, documentsRead: view.rows }));
  }
  const chosen = best;
  if (chosen === undefined)
    return told.length === 0
      ? planned
      : new PlanToldWhenRead(planned.physical, planned.rewrites, {
          suggestions: () => planned.suggestions,
          weighed: () => [...planned.weighed, ...told],
        });
  const { root, stages } = chosen.planned.physical;
  const physical: PhysicalPlan = { root, stages: withGiven(stages, chosen.match, scanOf(root)) };
  return new PlanToldWhenRead(physical, chosen.planned.rewrites, {
    suggestions: () => [],
    weighed: () => {
      const { rows } = chosen.view;
      const own = wayOf(chosen.view, chosen.match.from, { reason: `it has kept what the question begins with: ${whole.format(rows)} rows`, chosen: true, cost: chosen.cost, documentsRead: rows }); // prettier-ignore
      const others = planned.weighed.map((one) => (one.chosen ? { ...one, chosen: false, reason: `would work it out anew from ${one.collection}` } : one)); // prettier-ignore
      return [own, ...others, ...told];
    },
  });
}

/** Words are weighed by how rare they are in the collection, which the rows of a view do not tell. */
function withoutLostWords(match: ViewMatch | string): ViewMatch | string {
  if (typeof match === 'string') return match;
  const isWeighed = match.rest.some(({ stage }) => stage.kind !== 'mark' && relevanceCalls(expressionsOf(stage)).length > 0);
  return isWeighed ? 'words are weighed by the whole collection' : match;
}

function beginsAlike([question]: readonly PlannedStage[], [view]: readonly PlannedStage[]): boolean {
  return isStage(question, 'from') && isStage(view, 'from') && question.stage.source === view.stage.source;
}

function named(from: PlannedStage, source: string): PlannedStage {
  return isStage(from, 'from') ? { ...from, stage: { ...from.stage, source } } : from;
}

const wayOf = (
  { name }: KeptView,
  { id }: PlannedStage,
  more: { readonly reason: string; readonly chosen: boolean; readonly cost?: number; readonly documentsRead?: number },
): Weighed => ({ way: 'materialized view scan', collection: name, whatIf: false, stages: [id], ...more });

/** The step at the bottom. */
function scanOf(step: PhysicalStep): PhysicalStep {
  const [input] = inputsOf(step);
  return input === undefined ? step : scanOf(input);
}

/** The line whose rows are those of the view is counted where they are read. */
function withGiven(stages: readonly LineSource[], { gives }: ViewMatch, scan: PhysicalStep): readonly LineSource[] {
  if (gives === undefined || stages.some(({ id }) => id === gives.id)) return stages;
  const first = stages[0];
  const counted: LineSource = { id: gives.id, step: scan, counts: first?.step === scan ? first.counts : 'read' };
  return first === undefined ? [counted] : [first, counted, ...stages.slice(1)];
}
