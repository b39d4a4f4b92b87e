import type { PlanStep } from '@zesty-sieve/contract';
import type { Roles } from '../../app/theme.ts';

/** A step with how far it stands from the trunk of the plan: the partners of a join are a branch. */
export interface PlacedStep {
  readonly step: PlanStep;
  readonly branch: number;
}

/** The steps of a plan in the order in which the work is done. */
export function inWorkOrder(plan: PlanStep): PlanStep[] {
  return placedInWorkOrder(plan).map(({ step }) => step);
}

/** The same, with the branches that joins take in. */
export function placedInWorkOrder(plan: PlanStep, branch = 0): PlacedStep[] {
  const [trunk, ...branches] = plan.inputs;
  return [
    ...(trunk === undefined ? [] : placedInWorkOrder(trunk, branch)),
    ...branches.flatMap((input) => placedInWorkOrder(input, branch + 1)),
    { step: plan, branch },
  ];
}

const rolesOf: Record<string, keyof Roles> = {
  'full scan': 'scan',
  'materialized view scan': 'index',
  'index range scan': 'index',
  'index lookup': 'index',
  'index-only scan': 'index',
  'index union': 'index',
  'index intersection': 'index',
  sort: 'memory',
  'top-N sort': 'memory',
  'hash join': 'join',
  'nested-loop join': 'join',
  'index nested-loop join': 'join',
  'hash aggregate': 'memory',
  'window rank': 'memory',
  'text index search': 'index',
  'index search': 'index',
  'word count': 'scan',
  best: 'flowStrong',
  fusion: 'flowStrong',
};

/** The role of a step's colour; its name always stands beside it. */
export function roleOf(step: string): keyof Roles {
  return rolesOf[step] ?? 'other';
}

export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** `1–2`, `4`, `1–3, 6`. */
export function linesText(lines: readonly number[]): string {
  const runs: { first: number; last: number }[] = [];
  for (const line of lines) {
    const run = runs.at(-1);
    if (run !== undefined && line === run.last + 1) run.last = line;
    else runs.push({ first: line, last: line });
  }
  return runs.map(({ first, last }) => (first === last ? String(first) : `${first}–${last}`)).join(', ');
}
