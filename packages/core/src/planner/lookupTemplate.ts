import type { Expression } from '../language/tree.ts';
import type { Json } from '../values/json.ts';
import type { PlannedStage } from './logical.ts';
import type { IndexScan, PhysicalPlan, PhysicalStep, StepKind } from './physical.ts';
import { PlanToldWhenRead, type Planned } from './planned.ts';

type Parameters = Readonly<Record<string, Json>>;

/**
 * Makes the plan for other values of the parameters; undefined where they call for a plan of their own.
 * @param replan plans anew: what is told of the other ways is made so, when someone reads it
 */
export type LookupTemplate = (parameters: Parameters, replan: () => Planned) => Planned | undefined;

/** Steps whose expressions are given the parameters when they run. */
const sameForAll: ReadonlySet<StepKind> = new Set(['filter', 'project', 'compute', 'omit', 'unnest']);

/**
 * What a plan that looks one document up by a parameter leaves open: the value. An index under whose keys no two documents stand is the
 * best path for any, so that nothing is to be weighed again. Undefined for other plans: for those, the value decides which is best.
 */
export function lookupTemplate(
  { physical, rewrites }: Planned,
  written: readonly PlannedStage[],
  parameters: Parameters,
  isUnique: (collection: string, index: string) => boolean,
): LookupTemplate | undefined {
  const scan = scanBelow(physical.root);
  const name = lookedUpBy(written);
  if (scan === undefined || name === undefined || !isUnique(scan.collection, scan.index)) return undefined;
  const [range] = scan.ranges;
  const asked =
    scan.lookup && scan.ranges.length === 1 && scan.condition === undefined && scan.covering === undefined && scan.ordered === undefined;
  if (!asked || range?.fixed.length !== 1 || !Object.is(range.fixed[0], parameters[name])) return undefined;
  // One plan for all values: what is made of a plan, such as its loops, is then made once.
  const shared = lookingUp(physical, scan, name);
  return (others, replan) => {
    const value = others[name];
    if (typeof value !== 'string' && typeof value !== 'number') return undefined;
    let anew: Planned | undefined;
    const told = (): Planned => (anew ??= replan());
    return new PlanToldWhenRead(shared, rewrites, { suggestions: () => told().suggestions, weighed: () => told().weighed }, others);
  };
}

/** The same plan, whose scan looks up what a parameter is given. */
function lookingUp({ root, stages }: PhysicalPlan, scan: IndexScan, lookedUp: string): PhysicalPlan {
  const made = new Map<PhysicalStep, PhysicalStep>();
  const copied = (step: PhysicalStep): PhysicalStep => {
    const copy = step === scan ? { ...scan, lookedUp } : ({ ...step, input: copied((step as { input: PhysicalStep }).input) } as PhysicalStep); // prettier-ignore
    made.set(step, copy);
    return copy;
  };
  return { root: copied(root), stages: stages.map((one) => ({ ...one, step: made.get(one.step) ?? one.step })) };
}

/** The index that a plan looks into, where all above it take its rows one at a time. */
function scanBelow(step: PhysicalStep): IndexScan | undefined {
  if (step.kind === 'indexScan') return step;
  return sameForAll.has(step.kind) && 'input' in step ? scanBelow(step.input) : undefined;
}

/** The parameter that the first condition holds a path against; undefined where it asks for something else, or others count rows. */
function lookedUpBy([, first, ...others]: readonly PlannedStage[]): string | undefined {
  if (first?.stage.kind !== 'where' || others.some(({ stage }) => 'count' in stage)) return undefined;
  const { condition } = first.stage;
  if (condition.kind !== 'comparison' || condition.operator !== '==') return undefined;
  const sides: readonly Expression[] = [condition.left, condition.right];
  const parameter = sides.find((side) => side.kind === 'parameter');
  return sides.some((side) => side.kind === 'path') && parameter?.kind === 'parameter' ? parameter.name : undefined;
}
