import {
  IndexProblem,
  keyTexts,
  readIndex,
  type Collection,
  type IndexDefinition,
  type IndexRequest,
  type UniqueViolation,
} from '@zesty-sieve/core';
import { ServerProblem } from '../problem.ts';

/** @throws ServerProblem that says where the definition cannot be read */
export function definitionOf(request: IndexRequest): IndexDefinition {
  try {
    return readIndex(request);
  } catch (error) {
    if (!(error instanceof IndexProblem)) throw error;
    throw new ServerProblem('/index', error.message, error.finding && { diagnostics: [{ ...error.finding, line: 1 }] });
  }
}

/** @throws ServerProblem where the collection has an index of that name */
export function rejectTaken(collection: Collection, definition: IndexDefinition): void {
  const same = collection.indexList.find((index) => index.definition.name === definition.name);
  if (same === undefined) return;
  const keys = keyTexts(same.definition).join(', ');
  throw new ServerProblem('/exists', `${collection.name} has an index ${definition.name} already, on ${keys}. Give this one another name.`);
}

export function uniqueProblem({ index, values, message }: UniqueViolation): ServerProblem {
  return new ServerProblem('/unique', message, { index, values: values.map((value) => value ?? null) });
}
