import type { PlanStep } from '@zesty-sieve/contract';
import type { Roles } from '../../../app/theme.ts';
/** The steps of a plan in the order in which the work is done. */
export declare function inWorkOrder(plan: PlanStep): PlanStep[];
/** The role of a step's colour; its name always stands beside it. */
export declare function roleOf(step: string): keyof Roles;
export declare function capital(text: string): string;
/** `1–2`, `4`, `1, 3`. */
export declare function linesText(lines: readonly number[]): string;
