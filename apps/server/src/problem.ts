import { problemTitles, problemTypeBase, type Problem, type ProblemType } from '@zesty-sieve/contract';

/** A failure that the caller is told of, as Problem Details. It crosses threads as plain data. */
export class ServerProblem extends Error {
  problem: Problem;
  constructor(type: ProblemType, detail: string, more: Record<string, unknown> = {}) {
    super(detail);
    this.name = 'ServerProblem';
    const [status, title] = problemTitles[type];
    this.problem = { type: problemTypeBase + type, title, status, detail, ...more };
  }

  /** A problem that has crossed threads as data, as the failure that it is. */
  static of(problem: Problem): ServerProblem {
    return Object.assign(new ServerProblem('/internal', problem.detail ?? ''), { problem });
  }
}

const noRoom =
  'There is no room left: all scratch collections together have 1 GB of memory, and others what the disk has. Nothing was stored.';

/** What a call to another thread gives: errors thrown there would lose their fields on the way. */
export type Reply<T> = { readonly value: T } | { readonly problem: Problem };

export async function reply<T>(work: () => T | Promise<T>): Promise<Reply<T>> {
  try {
    return { value: await work() };
  } catch (error) {
    if (error instanceof ServerProblem) return { problem: error.problem };
    if ((error as { code?: unknown }).code === 'SQLITE_FULL') return { problem: new ServerProblem('/too-large', noRoom).problem };
    throw error;
  }
}

/** The value of a reply, or its problem thrown again. */
export function unwrap<T>(answer: Reply<T>): T {
  if ('value' in answer) return answer.value;
  throw ServerProblem.of(answer.problem);
}
