import type { PlanStep } from '@zesty-sieve/contract';
import type { Roles } from '../../../app/theme.ts';

/** The steps of a plan in the order in which the work is done. */
export function inWorkOrder(plan: PlanStep): PlanStep[] {
  return [...plan.inputs.flatMap(inWorkOrder), plan];
}

const rolesOf: Record<string, keyof Roles> = {
  'full scan': 'scan',
  'index range scan': 'index',
  'index lookup': 'index',
  sort: 'memory',
  'top-N sort': 'memory',
  'hash join': 'join',
  'nested-loop join': 'join',
  'index nested-loop join': 'join',
  'hash aggregate': 'memory',
  'window rank': 'memory',
};

/** The role of a step's colour; its name always stands beside it. */
export function roleOf(step: string): keyof Roles {
  return rolesOf[step] ?? 'other';
}

export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** `1–2`, `4`, `1, 3`. */
export function linesText(lines: readonly number[]): string {
  const [first] = lines;
  const last = lines[lines.length - 1];
  if (first === undefined) return '';
  if (lines.length > 1 && last - first === lines.length - 1) return `${first}–${last}`;
  return lines.join(', ');
}
