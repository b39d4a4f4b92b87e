import { ServerProblem } from '../problem.ts';

/** A thread that has ended begins anew, and does what it could not. */
export const passesMs = 2_000;
export const isPassing = (error: unknown): boolean => !(error instanceof ServerProblem) || error.problem.type.endsWith('/restarted');
