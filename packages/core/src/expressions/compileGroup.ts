import type { Expression, PathExpression } from '../language/tree.ts';
import type { Json, Value } from '../values/json.ts';
import type { Context, Site } from './context.ts';
import { openDoor } from './door.ts';
import { emitCondition, emitValue, newEmitter } from './emit.ts';
import type { Emitter, Variables } from './emitter.ts';

export interface GroupMeasure {
  readonly argument: Expression | undefined;
  readonly isCondition: boolean;
  /** Whether numbers alone count; others are noted at the site. */
  readonly numeric: boolean;
  readonly where: Expression | undefined;
  readonly site: Site;
}

export interface GroupParts {
  readonly keys: readonly Expression[];
  readonly measures: readonly GroupMeasure[];
  readonly unnested:
    | { readonly path: PathExpression; readonly element: string; readonly keepEmpty: boolean; readonly condition: Expression | undefined }
    | undefined;
}

/** How many rows went in, and how many elements of those were taken apart and kept. */
export interface GroupTally {
  elements: number;
  kept: number;
}

/** `find` gives the number of a group by the values of its keys, and `columns` are of a measure each. */
export interface GroupsToFill {
  readonly find: (...key: Value[]) => number;
  readonly columns: readonly { add(group: number, value: Json): void }[];
}

/** Takes rows `[from, to)` into their groups. */
export type GroupKernel = (
  rows: readonly Json[],
  stretch: { readonly from: number; readonly to: number },
  groups: GroupsToFill,
  tally: GroupTally,
  context: Context,
) => void;

/** Compiles the loop of a group: keys and measures inside it, and the elements of an array where one is taken apart. */
export function compileGroup({ keys, measures, unnested }: GroupParts): GroupKernel {
  const emitter = newEmitter();
  const plain: Variables = { current: 'row', whole: 'row', partners: new Map() };
  const variables: Variables = unnested === undefined ? plain : { ...plain, partners: new Map([[unnested.element, 'element']]) };
  const body = (): void => {
    if (unnested?.condition !== undefined) emitter.line(`if (!(${emitCondition(emitter, unnested.condition, variables)})) continue;`);
    emitter.line('kept++;');
    const values = keys.map((key) => emitValue(emitter, key, variables));
    emitter.line(`const group = find(${values.join(', ')});`);
    measures.forEach((measure, m) => emitMeasure(emitter, measure, m, variables));
  };
  emitter.line('const { from, to } = stretch; const { find, columns } = groups;');
  emitter.line('let kept = 0; let elementCount = 0;');
  measures.forEach((_, m) => emitter.line(`const column${m} = columns[${m}];`));
  emitter.block('for (let i = from; i < to; i++)', () => {
    emitter.line('const row = rows[i];');
    if (unnested === undefined) {
      body();
      return;
    }
    const value = emitValue(emitter, unnested.path, plain);
    emitter.line(`const list = Array.isArray(${value}) ? ${value} : ${value} === undefined || ${value} === null ? none : [${value}];`);
    emitter.line('const count = list.length;');
    emitter.line(`elementCount += ${unnested.keepEmpty ? 'count === 0 ? 1 : count' : 'count'};`);
    emitter.block(`for (let k = 0; k < ${unnested.keepEmpty ? '(count === 0 ? 1 : count)' : 'count'}; k++)`, () => {
      emitter.line('const element = list[k];');
      body();
    });
  });
  emitter.line('tally.elements += elementCount; tally.kept += kept;');
  const source = `const none = [];\n${emitter.body}`;
  return openDoor(['rows', 'stretch', 'groups', 'tally', 'context'], source, emitter.data) as GroupKernel;
}

function emitMeasure(
  emitter: Emitter,
  { argument, isCondition, numeric, where, site }: GroupMeasure,
  at: number,
  variables: Variables,
): void {
  const gather = `column${at}.add(group, `;
  const add = (): void => {
    if (argument === undefined) {
      emitter.line(`${gather}true);`);
      return;
    }
    if (isCondition) {
      emitter.line(`${gather}${emitCondition(emitter, argument, variables)});`);
      return;
    }
    const value = emitValue(emitter, argument, variables);
    if (!numeric) emitter.line(`if (${value} !== undefined && ${value} !== null) ${gather}${value});`);
    else {
      const note = `context.misfits.note(${emitter.constant(site)}, 0, ${value})`;
      emitter.line(`if (typeof ${value} === 'number') ${gather}${value}); else if (${value} !== undefined && ${value} !== null) ${note};`);
    }
  };
  if (where === undefined) emitter.block('', add);
  else emitter.block(`if (${emitCondition(emitter, where, variables)})`, add);
}
