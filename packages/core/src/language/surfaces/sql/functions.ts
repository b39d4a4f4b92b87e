import type { NodeId } from '../../places.ts';
import type { Expression } from '../../tree.ts';
import { and, call, choose, compare, defined, literal } from './translate/build.ts';

interface SqlFunction {
  /** The fewest and the most arguments that it takes. */
  readonly takes: readonly [number, number];
  readonly give: (given: readonly [Expression, ...Expression[]], id: NodeId) => Expression;
}

const same = (name: string, least = 1, most = least): SqlFunction => ({ takes: [least, most], give: (given, id) => call(name, given, id) });
const plus = (value: Expression, by: number, id: NodeId): Expression =>
  value.kind === 'literal' && typeof value.value === 'number'
    ? literal(value.value + by, id)
    : { kind: 'arithmetic', operator: by < 0 ? '-' : '+', left: value, right: literal(Math.abs(by), id), id };
const isText = (value: Expression, id: NodeId): Expression => compare('==', call('type_of', [value], id), literal('text', id), id);
const isAbove = (value: Expression, least: number, id: NodeId): boolean | Expression =>
  value.kind === 'literal' && typeof value.value === 'number' ? value.value > least : compare('>', value, literal(least, id), id);

/** SUBSTRING counts places from 1; what lies before 1 takes from the length (ISO/IEC 9075-2, 6.32, rule 3). */
function substring([text, from, length]: readonly Expression[], id: NodeId): Expression {
  const begin = choose(isAbove(from!, 0, id), plus(from!, -1, id), literal(0, id), id);
  if (length === undefined) return call('substring', [text!, begin], id);
  const known = from!.kind === 'literal' && length.kind === 'literal' ? Number(from!.value) + Number(length.value) - 1 : undefined;
  if (known !== undefined) return call('substring', [text!, begin, literal(Math.max(0, known - Math.max(0, Number((from as { value: number }).value) - 1)), id)], id); // prettier-ignore
  const end = plus({ kind: 'arithmetic', operator: '+', left: from!, right: length, id }, -1, id);
  const cut = choose(isAbove(end, 0, id), end, literal(0, id), id);
  return call('substring', [text!, begin, choose(isAbove(from!, 0, id), length, cut, id)], id);
}

/** From 1, and 0 where the part does not stand in the text; NULL where one of them is no text. */
function position([part, text]: readonly Expression[], id: NodeId): Expression {
  const found = plus(call('position_of', [text!, part!], id), 1, id);
  const none = choose(and(id, isText(text!, id), part!.kind === 'literal' ? typeof part!.value === 'string' : isText(part!, id)), literal(0, id), literal(null, id), id); // prettier-ignore
  return call('coalesce', [found, none], id);
}

/** The functions that are called with values alone, as the notation gives them. */
const functions: Readonly<Record<string, SqlFunction>> = {
  COALESCE: { takes: [1, Infinity], give: (given, id) => call('coalesce', given, id) },
  NULLIF: {
    takes: [2, 2],
    give: ([a, b], id) => choose(and(id, defined(b!, id), compare('==', a, b!, id)), literal(null, id), a, id),
  },
  UPPER: same('upper'),
  LOWER: same('lower'),
  TRIM: { takes: [1, 1], give: ([text], id) => call('trim', [text, literal(' ', id)], id) },
  SUBSTRING: { takes: [2, 3], give: substring },
  POSITION: { takes: [2, 2], give: position },
  CHAR_LENGTH: { takes: [1, 1], give: ([text], id) => choose(isText(text, id), call('length', [text], id), literal(null, id), id) },
  REPLACE: same('replace', 3),
  ABS: same('abs'),
  FLOOR: same('floor'),
  CEIL: same('ceil'),
  ROUND: same('round', 1, 2),
  SQRT: same('sqrt'),
  POWER: same('pow', 2),
  EXP: same('exp'),
  LN: same('ln'),
  MOD: { takes: [2, 2], give: ([left, right], id) => ({ kind: 'arithmetic', operator: '%', left, right: right!, id }) },
  CURRENT_TIMESTAMP: { takes: [0, 0], give: (_, id) => call('now', [], id) },
  CURRENT_DATE: { takes: [0, 0], give: (_, id) => call('substring', [call('now', [], id), literal(0, id), literal(10, id)], id) },
};
const alsoCalled: Readonly<Record<string, string>> = { CEILING: 'CEIL', CHARACTER_LENGTH: 'CHAR_LENGTH' };

export const functionNames = [...Object.keys(functions), ...Object.keys(alsoCalled)];

export function functionNamed(name: string): SqlFunction {
  return functions[Object.hasOwn(alsoCalled, name) ? alsoCalled[name]! : name]!;
}
