import type { Expression, Segment, Selector } from '../language/tree.ts';
import { readElement } from '../values/fields.ts';
import { isObject, type Json } from '../values/json.ts';
import type { Step } from '../values/normalizedPath.ts';

/** A node of RFC 9535, 1.1: a value and where it stands. */
export interface Node {
  readonly steps: readonly Step[];
  readonly value: Json;
}

/** Makes the test of a filter selector; called once for each filter, not for each node. */
export type FilterMaker = (condition: Expression) => (element: Json) => boolean;

type Select = (node: Node, selected: Node[]) => void;

/** The nodes that segments select, starting at a value, in the order of RFC 9535, 2.5. */
export function nodesOf(segments: readonly Segment[], start: Json, makeFilter: FilterMaker): Node[] {
  let nodes: Node[] = [{ steps: [], value: start }];
  for (const { descendant, selectors } of segments) {
    const selects = selectors.map((selector) => selectorOf(selector, makeFilter));
    const selected: Node[] = [];
    for (const node of nodes) {
      if (descendant) withDescendants(node, selects, selected);
      else for (const select of selects) select(node, selected);
    }
    nodes = selected;
  }
  return nodes;
}

function withDescendants(node: Node, selects: readonly Select[], selected: Node[]): void {
  for (const select of selects) select(node, selected);
  eachChild(node, (child) => withDescendants(child, selects, selected));
}

function eachChild({ steps, value }: Node, visit: (child: Node) => void): void {
  if (Array.isArray(value)) value.forEach((item, i) => visit({ steps: [...steps, i], value: item }));
  else if (isObject(value)) for (const name of Object.keys(value)) visit({ steps: [...steps, name], value: value[name]! });
}

function selectorOf(selector: Selector, makeFilter: FilterMaker): Select {
  switch (selector.kind) {
    case 'name':
      return ({ steps, value }, selected) => {
        if (isObject(value) && Object.hasOwn(value, selector.name)) {
          selected.push({ steps: [...steps, selector.name], value: value[selector.name]! });
        }
      };
    case 'wildcard':
      return (node, selected) => eachChild(node, (child) => selected.push(child));
    case 'index':
      return ({ steps, value }, selected) => {
        const item = readElement(value, selector.index);
        if (item === undefined) return;
        const position = selector.index < 0 ? (value as Json[]).length + selector.index : selector.index;
        selected.push({ steps: [...steps, position], value: item });
      };
    case 'slice':
      return ({ steps, value }, selected) => {
        if (!Array.isArray(value)) return;
        for (const i of slicePositions(selector, value.length)) selected.push({ steps: [...steps, i], value: value[i]! });
      };
    case 'filter': {
      const test = makeFilter(selector.condition);
      return (node, selected) =>
        eachChild(node, (child) => {
          if (test(child.value)) selected.push(child);
        });
    }
  }
}

/** The positions of a slice, in its order (RFC 9535, 2.3.4.2.2). */
function* slicePositions(slice: { start?: number; end?: number; step: number }, length: number): Generator<number> {
  const { step } = slice;
  if (step === 0) return;
  const fromEnd = (i: number) => (i >= 0 ? i : length + i);
  const between = (i: number, low: number, high: number) => Math.min(Math.max(i, low), high);
  if (step > 0) {
    const upper = between(fromEnd(slice.end ?? length), 0, length);
    for (let i = between(fromEnd(slice.start ?? 0), 0, length); i < upper; i += step) yield i;
  } else {
    const lower = between(slice.end === undefined ? -1 : fromEnd(slice.end), -1, length - 1);
    const first = slice.start === undefined ? length - 1 : fromEnd(slice.start);
    for (let i = between(first, -1, length - 1); i > lower; i += step) yield i;
  }
}
