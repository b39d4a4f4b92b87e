import {
  inputsOf,
  type FullScan,
  type Group,
  type PhysicalPlan,
  type PhysicalStep,
  type Rank,
  type StepKind,
  type TopNSort,
} from '../../planner/physical.ts';
import { isRowStep, rowStepOf, type RowStepOf } from './steps/registry.ts';

/**
 * Steps of a plan that are one loop: what rows come from, and what is done with each of them, the lowest first. At its end rows leave
 * as objects, or are taken into groups.
 */
export interface Segment {
  /** Whose documents the loop goes through itself; undefined where it goes through the rows of another step. */
  readonly scan: FullScan | undefined;
  readonly source: PhysicalStep;
  readonly steps: readonly RowStepOf[];
  /** Whether a row may become many. */
  readonly multiplies: boolean;
}

/** Steps that take the rows of a loop in, one at a time: they stand at its end. */
export type EndStep = Group | TopNSort | (Rank & { readonly atMost: number });

export function isEnd(step: PhysicalStep): step is EndStep {
  return step.kind === 'group' || step.kind === 'topNSort' || (step.kind === 'rank' && step.atMost !== undefined);
}

/** Steps that take in all their rows before they give one: nothing above makes what is below them end early. */
const takesAll: ReadonlySet<StepKind> = new Set(['sort', 'topNSort', 'group', 'rank', 'best', 'sample']);

/** The segments of a plan, by the step at whose end each stands. */
export type Segments = ReadonlyMap<PhysicalStep, Segment>;

const kept = { fused: new WeakMap<PhysicalStep, Segments>(), apart: new WeakMap<PhysicalStep, Segments>() };

/** The segments of a plan: the same each time it is run, so that what is compiled of them is too. */
export function segmentsOf({ root }: PhysicalPlan, fused: boolean): Segments {
  const known = fused ? kept.fused : kept.apart;
  let segments = known.get(root);
  if (segments === undefined) known.set(root, (segments = cutAt(root, fused)));
  return segments;
}

/**
 * Cuts a plan into segments. Where a limit may end the run early, each step is a loop of its own, so that no more is done than is asked
 * for; and what multiplies rows ends a segment whose rows are held, so that one row never becomes unboundedly many at once.
 * @param fused false makes a loop of each step, which gives the same rows and counts
 */
function cutAt(root: PhysicalStep, fused: boolean): Segments {
  const segments = new Map<PhysicalStep, Segment>();
  const cut = (step: PhysicalStep, mayStop: boolean): void => {
    const stops = step.kind === 'limit' || (mayStop && !takesAll.has(step.kind));
    if (isRowStep(step) || isEnd(step)) {
      const segment = segmentAt(step, fused && !stops);
      segments.set(step, segment);
      for (const one of segment.steps) if (one.kind === 'hashJoin') cut(one.partners, false);
      if (segment.scan === undefined) cut(segment.source, stops);
      return;
    }
    inputsOf(step).forEach((input) => cut(input, stops));
  };
  cut(root, false);
  return segments;
}

function segmentAt(end: PhysicalStep, fused: boolean): Segment {
  const steps: RowStepOf[] = [];
  let source: PhysicalStep = end;
  if (isEnd(end)) source = end.input;
  let multiplied = false;
  while (isRowStep(source) && (fused || (steps.length === 0 && !isEnd(end)))) {
    const { multiplies } = rowStepOf(source);
    if (multiplies && multiplied && end.kind !== 'group') break;
    multiplied ||= multiplies;
    steps.unshift(source);
    source = source.input;
  }
  const isUnnested = end.kind === 'group' && end.unnested !== undefined;
  return { scan: fused && source.kind === 'fullScan' ? source : undefined, source, steps, multiplies: multiplied || isUnnested };
}
