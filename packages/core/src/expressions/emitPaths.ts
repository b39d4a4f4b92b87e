import { isSingle, type Expression, type PathExpression, type Segment } from '../language/tree.ts';
import { internalized, isPlainName, isPlainOfObjects, readElement, readField } from '../values/fields.ts';
import type { Json } from '../values/json.ts';
import type { Atom, Emitter, Origin, RowOrigin, Variables } from './emitter.ts';
import { nodesOf } from './nodes.ts';

function rootOf(path: PathExpression, variables: Variables): Origin {
  if (path.root.kind === 'current') return variables.current;
  if (path.root.kind === 'whole') return variables.whole;
  return variables.partners.get(path.root.name) ?? 'undefined';
}

/** Where a path begins, and what of it is left to go: the first field of a row in slots is where it was put. */
function begin(emitter: Emitter, path: PathExpression, variables: Variables): readonly [at: Atom, rest: readonly Segment[]] {
  const origin = rootOf(path, variables);
  const { segments } = path;
  if (typeof origin === 'string') return [origin, segments];
  const [first, ...rest] = segments;
  const [selector] = first?.selectors ?? [];
  if (first === undefined || first.descendant || first.selectors.length > 1 || selector?.kind !== 'name')
    return [origin.object(emitter), segments];
  const found = origin.find(selector.name);
  if (found === undefined) return ['undefined', rest];
  return 'held' in found ? [found.held, rest] : [emitField(emitter, found.in, selector.name), rest];
}

function emitField(emitter: Emitter, owner: Atom, name: string): Atom {
  const key = emitter.constant(internalized(name));
  // A row is an object, so its own fields are read without asking.
  if (isPlainOfObjects(name) && owner.startsWith('row')) return emitter.variable(`${owner}[${key}]`);
  if (isPlainName(name) && owner.startsWith('own')) return emitter.variable(`${owner}[${key}]`);
  if (isPlainName(name)) return emitter.variable(`${owner} == null ? undefined : ${owner}[${key}]`);
  const isObject = `typeof ${owner} === 'object' && ${owner} !== null && !Array.isArray(${owner})`;
  if (isPlainOfObjects(name)) return emitter.variable(`${isObject} ? ${owner}[${key}] : undefined`);
  return emitter.variable(`${emitter.constant(readField)}(${owner}, ${key})`);
}

/** The value at the end of a single path, or *nothing*. */
export function emitSingle(emitter: Emitter, path: PathExpression, variables: Variables): Atom {
  const [start, rest] = begin(emitter, path, variables);
  let at = start;
  for (const { selectors } of rest) {
    const [selector] = selectors;
    if (selector.kind === 'name') at = emitField(emitter, at, selector.name);
    else if (selector.kind === 'index')
      at = emitter.variable(`${emitter.constant(readElement)}(${at}, ${emitter.constant(selector.index)})`);
  }
  return at;
}

/** Whether a path is a chain of loops; others go through the general walk. */
function isLoops({ descendant, selectors }: Segment): boolean {
  return !descendant && selectors.length === 1 && selectors[0]!.kind !== 'slice';
}

/** Emits `body` once for the value of each node that a path selects, in the standard's order. */
export function emitEach(emitter: Emitter, path: PathExpression, variables: Variables, body: (value: Atom) => void): void {
  const [at, rest] = begin(emitter, path, variables);
  if (rest.every(isLoops)) emitLoops(emitter, rest, at, variables, body);
  else loopOver(emitter, emitWalk(emitter, rest, at, variables), body);
}

function emitLoops(emitter: Emitter, segments: readonly Segment[], at: Atom, variables: Variables, body: (value: Atom) => void): void {
  const [segment, ...rest] = segments;
  if (segment === undefined) {
    emitter.block(`if (${at} !== undefined)`, () => body(at));
    return;
  }
  const [selector] = segment.selectors;
  const onwards = (value: Atom) => emitLoops(emitter, rest, value, variables, body);
  // What is in an array or an object is something.
  const onwardsFromElement = rest.length === 0 ? body : onwards;
  switch (selector.kind) {
    case 'name':
      onwards(emitField(emitter, at, selector.name));
      return;
    case 'index':
      onwards(emitter.variable(`${emitter.constant(readElement)}(${at}, ${emitter.constant(selector.index)})`));
      return;
    case 'wildcard':
      loopOver(emitter, emitChildren(emitter, at), onwardsFromElement);
      return;
    case 'filter':
      loopOver(emitter, emitChildren(emitter, at), (element) => {
        const inside = { ...variables, current: elementOrigin(emitter, element) };
        for (const part of partsOf(selector.condition)) emitter.line(`if (!(${emitter.condition(part, inside)})) continue;`);
        onwardsFromElement(element);
      });
      return;
    case 'slice':
      throw new Error('slices go through the general walk');
  }
}

/** What holds together is looked at one by one, without a variable that says how far it went. */
const partsOf = (condition: Expression): readonly Expression[] => (condition.kind === 'and' ? condition.operands : [condition]);

const empty = Object.freeze({});

/** An element whose fields are read several times is asked once whether it is null: an empty object then stands for it. */
function elementOrigin(emitter: Emitter, element: Atom): RowOrigin {
  const own = emitter.own(`${element} === null || ${element} === undefined ? ${emitter.constant(empty)} : ${element}`);
  return { find: () => ({ in: own }), object: () => element };
}

/** Emits `body` for each of a list; it may go on to the next with `continue`. */
export function loopOver(emitter: Emitter, list: string, body: (element: Atom) => void): void {
  const values = emitter.variable(list);
  const i = emitter.fresh();
  emitter.block(`for (let ${i} = 0; ${i} < ${values}.length; ${i}++)`, () => body(emitter.variable(`${values}[${i}]`)));
}

const none: readonly Json[] = [];

/** Most often they are those of an array, which needs no call. */
const emitChildren = (emitter: Emitter, at: Atom): string => `Array.isArray(${at}) ? ${at} : ${emitter.constant(childrenOf)}(${at})`;

function childrenOf(value: Json | undefined): readonly Json[] {
  if (Array.isArray(value)) return value;
  return typeof value === 'object' && value !== null ? Object.values(value) : none;
}

/**
 * Descendants, slices and several selectors in one segment are walked node by node. The filters on the way are compiled where
 * they stand, so that they see the same partners, row and elements around them as anything else there.
 */
function emitWalk(emitter: Emitter, segments: readonly Segment[], root: Atom, variables: Variables): string {
  const conditions = segments.flatMap(({ selectors }) =>
    selectors.flatMap((selector) => (selector.kind === 'filter' ? [selector.condition] : [])),
  );
  const tests = conditions.map((condition) => {
    const test = emitter.fresh();
    const element = emitter.fresh();
    emitter.block(`const ${test} = (${element}) =>`, () => {
      emitter.line(`return ${emitter.condition(condition, { ...variables, current: element })};`);
    });
    return test;
  });
  const walk = (start: Json | undefined, made: readonly ((element: Json) => boolean)[]): Json[] =>
    start === undefined ? [] : nodesOf(segments, start, (condition) => made[conditions.indexOf(condition)]!).map(({ value }) => value);
  return `${emitter.constant(walk)}(${root}, [${tests.join(', ')}])`;
}

/** The value of a path where a value is wanted: of a single one its value, of a several one the array of values. */
export function emitPathValue(emitter: Emitter, path: PathExpression, variables: Variables): Atom {
  if (isSingle(path)) return emitSingle(emitter, path, variables);
  const values = emitter.variable('[]');
  emitEach(emitter, path, variables, (value) => emitter.line(`${values}.push(${value});`));
  return values;
}

/** Whether a path selects anything. */
export function emitExistence(emitter: Emitter, path: PathExpression, variables: Variables): Atom {
  if (isSingle(path)) return `(${emitSingle(emitter, path, variables)} !== undefined)`;
  const found = emitter.variable('false');
  const label = emitter.fresh();
  emitter.block(`${label}:`, () => {
    emitEach(emitter, path, variables, () => emitter.line(`${found} = true; break ${label};`));
  });
  return found;
}
