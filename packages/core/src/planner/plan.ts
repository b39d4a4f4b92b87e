import { adviseOn } from './advice/advice.ts';
import { costOf, type Alternative } from './alternatives/alternative.ts';
import { planAsWritten, type Planning } from './alternatives/asWritten.ts';
import { orderEarly } from './alternatives/orderEarly.ts';
import type { Expression } from '../language/tree.ts';
import { Insistence } from './insisting.ts';
import { elementsPerRow } from './layers/groups.ts';
import { refuseLostRelevance } from './layers/countWords.ts';
import type { SourceLookup } from './layers/layer.ts';
import type { PlannedStage, Rewrite } from './logical.ts';
import { PlanToldWhenRead, type Planned } from './planned.ts';
import type { PlanOptions } from './planRequest.ts';
import { rewrite } from './rewrites/rewrite.ts';
import { viewsExpanded } from './rewrites/viewsExpanded.ts';

export type { PlannedStage } from './logical.ts';
export type { Planned } from './planned.ts';
export { PlanProblem, type PlanOptions } from './planRequest.ts';

/** An order is taken early where that costs so many times less: how many rows drop out on the way is little known. */
const orderEarlyGain = 3;

/**
 * Plans a pipeline: rewrites it, lays out the alternatives to what is written, and takes the one that costs least from end to end.
 * @throws PlanProblem where offset or limit is given no whole number
 * @throws WayRefused where a kind of way is insisted on that there is none of
 */
export function plan(written: readonly PlannedStage[], lookup: SourceLookup, options: PlanOptions): Planned {
  const expanded = viewsExpanded(written, lookup);
  refuseLostRelevance(expanded);
  const { stages, done } = rewrite(narrowed(expanded, options.only), options.withoutRules);
  const insisted = new Insistence(options.useIndex, options.ways);
  const wantsEarly = insisted.wants('early order');
  const planView: Planning['planView'] = (view) =>
    plan(view, lookup, { ...options, ways: undefined, whatIf: [], only: undefined }).physical.root;
  const asWritten = planAsWritten(stages, done, { lookup, options, planView, insisted: wantsEarly ? insisted.ofPartners : insisted });
  const early =
    options.withoutRules?.includes('order moved up') || !insisted.allows('early order')
      ? undefined
      : orderEarly(stages, asWritten.asked.countOf, (stage) => elementsPerRow(stage, asWritten.asked.source));
  if (early === undefined) {
    if (wantsEarly) throw insisted.refusal();
    return asWritten.planned;
  }
  const told: Rewrite = {
    rule: 'order moved up',
    detail: (say) => `rows are put in order before ${say.stages(early.passed)}, as an index gives it`,
    stages: [early.id],
  };
  const inOrder = wantsEarly ? new Insistence(options.useIndex, [...(options.ways ?? []), 'index order']) : insisted;
  const ordered = planAsWritten(early.stages, [...done, told], { lookup, options, planView, insisted: inOrder }, early.about);
  if (wantsEarly) {
    if (!ordered.givesOrder) throw insisted.refusal();
    return ordered.planned;
  }
  if (ordered.givesOrder && costOf(ordered) * orderEarlyGain < costOf(asWritten)) return ordered.planned;
  return advisedEarly(asWritten, ordered, options);
}

/** A pipeline on some documents alone, as if its collection had no others. */
function narrowed(stages: readonly PlannedStage[], only: Expression | undefined): readonly PlannedStage[] {
  if (only === undefined) return stages;
  const [from, ...rest] = stages;
  if (from === undefined) return stages;
  return [from, { ...from, uncounted: true, stage: { kind: 'where', condition: only } }, ...rest];
}

/** What is written, with the index that would give its order early where that is of more use than what would help otherwise. */
function advisedEarly(asWritten: Alternative, ordered: Alternative, options: PlanOptions): Planned {
  const { planned, chosen } = asWritten;
  return new PlanToldWhenRead(planned.physical, planned.rewrites, {
    suggestions: () => {
      const { suggestions } = planned;
      if (options.whatIf?.length) return suggestions;
      const { source, question, selectivity, constant } = ordered.asked;
      // All that is between the documents and the first in order is spared.
      const whole = { ...chosen, rows: chosen.rows, rowsSorted: chosen.rows, cost: costOf(asWritten) };
      const [plain] = suggestions;
      const [first] = adviseOn(source, question, whole, selectivity, constant);
      return first !== undefined && (plain === undefined || first.documentsRead < plain.documentsRead) ? [first] : suggestions;
    },
    weighed: () => planned.weighed,
  });
}
