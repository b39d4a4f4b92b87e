import type { SelectItem } from '../language/stages/stage.ts';
import { fieldNames, isSingle, type Expression } from '../language/tree.ts';
import type { JoinMatch, PhysicalStep, StepKind } from '../planner/physical.ts';
import { isObject, type Json, type Value } from '../values/json.ts';
import { estimateBytes, fullArrayBytes, shellBytes } from '../values/size.ts';

/** How much of a value the run has made: its outermost array or object, or all of it; or a list that has no room to spare. What is not said is in memory anyway. */
type Made = 'list' | 'shell' | 'whole';

/** The bytes of a value of which so much was made. */
export const bytesOfMade: { readonly [M in Made]: (value: Value) => number } = {
  list: (value) => (Array.isArray(value) ? fullArrayBytes(value.length) : 0),
  shell: shellBytes,
  whole: estimateBytes,
};

/** What of the rows of a step is the run's own, so that holding a row holds memory. */
interface Ownership {
  /** Whether rows are new objects, rather than the resident documents themselves. */
  readonly rows: boolean;
  /** Fields at the top of a row whose values were made. */
  readonly fields: ReadonlyMap<string, Made>;
}

const resident: Ownership = { rows: false, fields: new Map() };
const ofInput = (step: { readonly input: PhysicalStep }): Ownership => ownershipOf(step.input);

/** What each kind of step makes of what its input has made. */
const ownerships: { readonly [K in StepKind]: (step: Extract<PhysicalStep, { kind: K }>) => Ownership } = {
  fullScan: () => resident,
  indexScan: ({ covering }) => (covering === undefined ? resident : { rows: true, fields: new Map() }),
  indexSetScan: () => resident,
  positionsScan: () => resident,
  scoredScan: ({ target }) => (target === undefined ? resident : placedIn(target, resident)),
  fusedScan: ({ target }) => (target === undefined ? resident : placedIn(target, resident)),
  indexAggregate: () => ({ rows: true, fields: new Map() }),
  filter: ofInput,
  sort: ofInput,
  partialSort: ofInput,
  topNSort: ofInput,
  offset: ofInput,
  limit: ofInput,
  sample: ofInput,
  countWords: ofInput,
  best: ({ target, input }) => (target === undefined ? ofInput({ input }) : placedIn(target, ownershipOf(input))),
  project: ({ items, input }) => itemsOf(items, ownershipOf(input), new Map()),
  omit: ({ paths, input }) => {
    const fields = new Map(ownershipOf(input).fields);
    for (const { segments } of paths) {
      const [selector] = segments[0]!.selectors;
      if (segments.length > 1 && selector.kind === 'name') put(fields, selector.name, 'shell');
    }
    return { rows: true, fields };
  },
  compute: ({ assignments, input }) => {
    const before = ownershipOf(input);
    const fields = new Map(before.fields);
    for (const { target, expression } of assignments)
      put(fields, target[0]!, target.length > 1 ? 'shell' : madeBy(expression, { rows: true, fields }));
    return { rows: true, fields };
  },
  unnest: ({ path, target, input }) => {
    const before = ownershipOf(input);
    const fields = new Map(before.fields);
    put(fields, target[0]!, target.length > 1 ? 'shell' : madeBy(path, before) === 'whole' ? 'whole' : undefined);
    return { rows: true, fields };
  },
  hashJoin: ({ match, input }) => joined(gathers(match), match.target, ownershipOf(input)),
  indexJoin: ({ match, input }) => joined(match.mode === 'gatherJoin' ? 'shell' : undefined, match.target, ownershipOf(input)),
  group: ({ keys, measures, input }) => {
    const before = ownershipOf(input);
    const fields = new Map<string, Made>();
    for (const { target, aggregate, argument } of measures) {
      const isList = aggregate === 'collect' || aggregate === 'collect_distinct';
      const own = argument && madeBy(argument, before);
      put(fields, target[0]!, own === 'whole' ? 'whole' : isList || target.length > 1 ? 'shell' : own);
    }
    return keys === undefined ? { rows: true, fields } : itemsOf(keys, before, fields);
  },
  rank: ({ target, input }) => placedIn(target, ownershipOf(input)),
};

/** Rows made anew, with a number under a name. */
function placedIn(target: readonly string[], before: Ownership): Ownership {
  const fields = new Map(before.fields);
  if (target.length > 1) put(fields, target[0]!, 'shell');
  return { rows: true, fields };
}

function ownershipOf(step: PhysicalStep): Ownership {
  return (ownerships[step.kind] as (step: PhysicalStep) => Ownership)(step);
}

function itemsOf(items: readonly SelectItem[], before: Ownership, fields: Map<string, Made>): Ownership {
  for (const { target, expression } of items) put(fields, target[0]!, target.length > 1 ? 'shell' : madeBy(expression, before));
  return { rows: true, fields };
}

/** The list of a gather join: those that lie side by side in the table are taken at once. */
function gathers({ mode, residual, leftIsList }: JoinMatch): Made | undefined {
  if (mode !== 'gatherJoin') return undefined;
  return residual === undefined && !leftIsList ? 'list' : 'shell';
}

/** Partners are resident, or held by the join that made them. */
function joined(gathered: Made | undefined, target: readonly string[], before: Ownership): Ownership {
  const fields = new Map(before.fields);
  put(fields, target[0]!, target.length > 1 ? 'shell' : gathered);
  return { rows: true, fields };
}

function put(fields: Map<string, Made>, name: string, made: Made | undefined): void {
  if (made === undefined) fields.delete(name);
  else fields.set(name, made);
}

/** Functions that give one of their arguments, or an element of one. */
const choosing: ReadonlySet<string> = new Set(['coalesce', 'or_null', 'if', 'first_of', 'last_of', 'min_of', 'max_of', 'value']);
/** Functions that give a new array of what they were given. */
const gathering: ReadonlySet<string> = new Set(['distinct_of', 'sorted_of']);

/** How much of an expression's value is made for each row. */
function madeBy(expression: Expression, row: Ownership): Made | undefined {
  switch (expression.kind) {
    case 'literal':
    case 'parameter':
      return undefined;
    case 'path': {
      if (expression.root.kind === 'partner') return isSingle(expression) ? undefined : 'shell';
      if (expression.segments.length === 0) return row.rows ? 'whole' : undefined;
      const names = fieldNames(expression);
      const inside = row.fields.get(names?.[0] ?? firstName(expression) ?? '');
      if (!isSingle(expression)) return inside === 'whole' ? 'whole' : 'shell';
      return inside === 'whole' || expression.segments.length === 1 ? inside : undefined;
    }
    case 'array':
      return most(expression.items, row) === undefined ? 'shell' : 'whole';
    case 'object':
      return most(expression.entries.map(({ value }) => value), row) === undefined ? 'shell' : 'whole'; // prettier-ignore
    case 'call':
      if (choosing.has(expression.name)) return most(expression.arguments, row);
      if (gathering.has(expression.name)) return most(expression.arguments, row) === 'whole' ? 'whole' : 'shell';
      return 'whole';
    default:
      return 'whole';
  }
}

function firstName({ segments }: Extract<Expression, { kind: 'path' }>): string | undefined {
  const [selector] = segments[0]!.selectors;
  return selector.kind === 'name' ? selector.name : undefined;
}

function most(expressions: readonly Expression[], row: Ownership): Made | undefined {
  const made = expressions.map((expression) => madeBy(expression, row));
  return made.includes('whole') ? 'whole' : made.find((one) => one !== undefined);
}

/** What of the rows of a step is the run's own. */
export interface Owned {
  /** Bytes of a row. */
  readonly row: (row: Json) => number;
  /** Fields whose values were made, and how much of them. */
  readonly made: ReadonlyMap<string, Made>;
}

/** What of a step's rows is the run's own; undefined where they are the resident documents themselves. */
export function ownedBy(step: PhysicalStep): Owned | undefined {
  const { rows, fields } = ownershipOf(step);
  if (!rows) return undefined;
  const made = [...fields];
  if (made.length === 0) return { row: shellBytes, made: fields };
  const row = (value: Json): number => {
    let bytes = shellBytes(value);
    if (!isObject(value)) return bytes;
    for (const [name, how] of made) {
      const field = value[name];
      if (typeof field !== 'number') bytes += bytesOfMade[how](field);
    }
    return bytes;
  };
  return { row, made: fields };
}

/** The bytes of a row that are the run's own: none where rows are the resident documents themselves. */
export function ownedBytes(step: PhysicalStep): (row: Json) => number {
  return ownedBy(step)?.row ?? (() => 0);
}

/** How much of each value of an expression is the run's own, where the rows of a step are read. */
export function ownedByValue(expression: Expression, input: PhysicalStep): (value: Json) => number {
  const made = madeBy(expression, ownershipOf(input));
  return made === undefined ? () => 0 : bytesOfMade[made];
}

/** Whether rows of a step are made by the run. */
export function makesRows(step: PhysicalStep): boolean {
  return ownershipOf(step).rows;
}
