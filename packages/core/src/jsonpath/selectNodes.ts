import { compileTest } from '../expressions/compile.ts';
import { makeContext } from '../expressions/context.ts';
import { nodesOf } from '../expressions/nodes.ts';
import type { Json } from '../values/json.ts';
import { normalizedPath } from '../values/normalizedPath.ts';
import { parseQuery } from './parseQuery.ts';

export { JsonPathError } from './parseQuery.ts';

/** A node that a query selected: its normalized path (RFC 9535, 2.7) and its value. */
export interface SelectedNode {
  readonly path: string;
  readonly value: unknown;
}

/**
 * The nodes that a JSONPath query (RFC 9535) selects in a JSON document, in the standard's order.
 * @throws JsonPathError where the query is not well-formed or not well-typed
 */
export function selectNodes(jsonpath: string, document: unknown): SelectedNode[] {
  const { segments } = parseQuery(jsonpath);
  const context = makeContext({});
  const whole = document as Json;
  return nodesOf(segments, whole, (condition) => {
    const test = compileTest(condition);
    return (element) => test(element, whole, context);
  }).map(({ steps, value }) => ({ path: normalizedPath(steps), value }));
}
