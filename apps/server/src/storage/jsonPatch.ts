import { isObject, type Json } from '@zesty-sieve/core';
import { applyPatch, type Operation } from 'rfc6902';

/** A patch that is none, or that does not fit the document. */
export class PatchProblem extends Error {}

/** The library changes what is inside a value: the document stands inside one, so that its root can be replaced, too. */
const at = '/document';

/**
 * A document with a JSON Patch applied (RFC 6902): all of it, or none. The document that is given stays as it was.
 * @throws PatchProblem which says which operation it is, counted from 1
 */
export function jsonPatched(document: Json, patch: readonly unknown[]): Json {
  const whole: { document?: Json } = { document: structuredClone(document) };
  patch.forEach((given, i) => {
    const [failure] = attempt(() => applyPatch(whole, [inside(given)]));
    if (failure !== null && failure !== undefined) throw new PatchProblem(`operation ${i + 1}: ${withoutPlace(failure.message)}`);
  });
  if (whole.document === undefined) throw new PatchProblem('it removes the whole document. Delete the document instead');
  return whole.document;
}

function inside(given: unknown): Operation {
  if (!isObject(given)) throw new PatchProblem('an operation is an object with op and path');
  const operation = given as Record<string, unknown>;
  const moved = (pointer: unknown) => (typeof pointer === 'string' && (pointer === '' || pointer.startsWith('/')) ? at + pointer : pointer);
  return { ...operation, path: moved(operation.path), ...('from' in operation && { from: moved(operation.from) }) } as Operation;
}

function attempt(apply: () => (Error | null)[]): (Error | null)[] {
  try {
    return apply();
  } catch (error) {
    if (error instanceof PatchProblem) throw error;
    return [error as Error];
  }
}

function withoutPlace(message: string): string {
  return message.replaceAll(`${at}/`, '/').replaceAll(at, '""');
}
