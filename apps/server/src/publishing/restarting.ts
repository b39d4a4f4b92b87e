import type { ServerProblem } from '../problem.ts';

/** Whether a thread ended amid it, and begins anew. */
export const isRestarting = ({ problem }: ServerProblem): boolean => problem.type.endsWith('/restarted');
