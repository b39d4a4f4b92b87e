import type { Answer, EngineProblem } from '@zesty-sieve/core';
import { ServerProblem } from '../problem.ts';

/** JSON text that is passed on as it is. */
export type JsonText = string;

/** A problem of the engine as one that is told over HTTP. */
export function problemOf(problem: EngineProblem): ServerProblem {
  const { kind, message, ...rest } = problem;
  // The plan of a run that a guard ended stands in the problem as in an answer.
  const more = 'explained' in rest ? { ...rest.explained, ...rest, explained: undefined } : rest;
  return new ServerProblem(`/${kind}`, message, more);
}

/** The value of an answer; its problem is thrown. */
export function valueOf<T>(answer: Answer<T>): T {
  if (answer.ok) return answer.value;
  throw problemOf(answer.problem);
}
