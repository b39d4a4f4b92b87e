import { ParseFailure } from '../../notation/reader.ts';
import { isSingle, type Expression, type PathExpression } from '../../../tree.ts';
import { faults } from '../faults.ts';
import { functionNamed } from '../functions.ts';
import type { SqlCase, SqlExpression, SqlJson, SqlType } from '../tree.ts';
import { call, choose, compare, defined, isCertain, literal, onwards, or, whole, type Truth } from './build.ts';
import type { Meaning, NodeId } from './meaning.ts';
import { falsehoodOf, isPredicate, truthOf } from './truth.ts';
import type { Standpoint } from './meaning.ts';

/** The meaning of SQL's expressions where they stand. */
export function meaningAt(standpoint: Standpoint): Meaning {
  const m: Meaning = {
    ...standpoint,
    value: (expression) => standpoint.replaced(expression) ?? valueOf(expression, m),
    isTrue: (predicate) => {
      const known = standpoint.replaced(predicate);
      return known === undefined ? truthOf(predicate, m) : compare('==', known, literal(true, predicate.id), predicate.id);
    },
    isFalse: (predicate) => {
      const known = standpoint.replaced(predicate);
      return known === undefined ? falsehoodOf(predicate, m) : compare('==', known, literal(false, predicate.id), predicate.id);
    },
  };
  return m;
}

function valueOf(node: SqlExpression, m: Meaning): Expression {
  const { id } = node;
  switch (node.kind) {
    case 'literal':
      return literal(node.value, id);
    case 'parameter':
      return { kind: 'parameter', name: node.name, id };
    case 'column':
      return m.column(node);
    case 'negative':
      return { kind: 'negation', operand: m.value(node.operand), id };
    case 'arithmetic':
      return { kind: 'arithmetic', operator: node.operator, left: m.value(node.left), right: m.value(node.right), id };
    case 'concat':
      return call('concat', node.parts.map(m.value), id);
    case 'case':
      return caseOf(node, id, m);
    case 'cast':
      return cast(m.value(node.operand), node.type, id);
    case 'call':
      return called(node, m);
    case 'extract':
      return call('date_part', [literal(node.unit, id), m.value(node.operand)], id);
    case 'object':
      return objectOf(node, m);
    case 'array':
      return arrayOf(node, m);
    case 'json':
      return json(node, id, m);
    case 'aggregate':
      throw new ParseFailure(faults.misplaced(m.at(node), `The aggregate ${node.name}`, 'this clause', 'Aggregates stand in SELECT, HAVING and ORDER BY.')); // prettier-ignore
    case 'window':
      throw new ParseFailure(faults.misplaced(m.at(node), `${node.name} with OVER`, 'this clause', 'Rank in a member of WITH, and keep what you want from that.')); // prettier-ignore
    default:
      return isPredicate(node) ? truthValue(m.isTrue(node), () => m.isFalse(node), id) : literal(null, id);
  }
}

/** A predicate as a value: true, false or null. */
function truthValue(isTrue: Truth, isFalse: () => Truth, id: NodeId): Expression {
  if (typeof isTrue === 'boolean' && isTrue) return literal(true, id);
  return choose(isTrue, literal(true, id), choose(isFalse(), literal(false, id), literal(null, id), id), id);
}

function caseOf({ operand, whens, otherwise }: SqlCase, id: NodeId, m: Meaning): Expression {
  const last = otherwise === undefined ? literal(null, id) : m.value(otherwise);
  return whens.reduceRight((rest, { when, then }) => {
    const holds = operand === undefined ? m.isTrue(when) : m.isTrue({ kind: 'compare', operator: '==', left: operand, right: when, id: when.id }); // prettier-ignore
    return choose(holds, m.value(then), rest, id);
  }, last);
}

/** CAST (ISO/IEC 9075-2, 6.13); what does not convert is NULL, and the run counts it. */
function cast(value: Expression, type: SqlType, id: NodeId): Expression {
  switch (type) {
    case 'INTEGER':
    case 'BIGINT': {
      const number = call('number', [value], id);
      if (value.kind === 'literal' && typeof value.value === 'number') return literal(Math.trunc(value.value), id);
      return choose(compare('<', number, literal(0, id), id), call('ceil', [number], id), call('floor', [number], id), id);
    }
    case 'NUMERIC':
    case 'DOUBLE PRECISION':
    case 'REAL':
      return call('number', [value], id);
    case 'TEXT':
    case 'VARCHAR':
      return call('text', [value], id);
    case 'BOOLEAN':
      return call('boolean', [value], id);
    case 'DATE':
      return choose(defined(call('instant', [value], id), id), call('substring', [value, literal(0, id), literal(10, id)], id), literal(null, id), id); // prettier-ignore
    case 'TIMESTAMP':
      return choose(defined(call('instant', [value], id), id), value, literal(null, id), id);
    case 'JSON':
      return value;
  }
}

function called(node: SqlExpression & { kind: 'call' }, m: Meaning): Expression {
  const { takes, give } = functionNamed(node.name);
  const [least, most] = takes;
  const given = node.arguments.map(m.value);
  if (given.length < least || given.length > most) {
    const wants = least === most ? `${least} value${least === 1 ? '' : 's'}` : `${least} or more values`;
    throw new ParseFailure(faults.argumentCount(m.at(node), node.name, wants, given.length));
  }
  return give(given as unknown as [Expression, ...Expression[]], node.id);
}

/** JSON_OBJECT: a NULL is null, or its name is left out. */
function objectOf(node: SqlExpression & { kind: 'object' }, m: Meaning): Expression {
  const entries = node.entries.map(({ name, value }) => {
    const given = m.value(value);
    return { name, value: node.nulls ? whole(given, node.id) : present(given, node.id) };
  });
  return { kind: 'object', entries, id: node.id };
}

/** A value, missing where it is NULL; `coalesce` with nothing to fall back to gives nothing. */
const present = (value: Expression, id: NodeId): Expression => (isCertain(value) ? value : call('coalesce', [value], id));

function arrayOf(node: SqlExpression & { kind: 'array' }, m: Meaning): Expression {
  const items = node.items.map((item) => (node.nulls ? whole(m.value(item), node.id) : present(m.value(item), node.id)));
  const { id } = node;
  if (node.nulls || items.every(isCertain)) return { kind: 'array', items, id };
  return call('each', [{ kind: 'array', items, id }, call('coalesce', [{ kind: 'path', root: { kind: 'current' }, segments: [], id }], id)], id); // prettier-ignore
}

/** JSON_VALUE gives a scalar, JSON_QUERY an array or object, JSON_EXISTS a path to look for (ISO/IEC 9075-2, 6.34 to 6.36). */
function json(node: SqlJson, id: NodeId, m: Meaning): Expression {
  const argument = m.value(node.argument);
  if (argument.kind !== 'path') throw new ParseFailure(faults.needsPath(m.at(node.argument), `JSON_${node.what.toUpperCase()}`));
  const found = onwards(argument, node.path, id);
  if (node.what === 'exists') return found;
  const value = single(found, id);
  return node.what === 'value' ? jsonValue(value, node.returning, id) : composite(value, id);
}

/** The one value that a path selects; nothing where it selects several. */
export function single(found: PathExpression, id: NodeId): Expression {
  return isSingle(found) ? found : call('value', [found], id);
}

/** A scalar at a path, of its stored type unless another is asked for. */
export function jsonValue(found: Expression, type: SqlType | undefined, id: NodeId): Expression {
  if (type === 'JSON') return found;
  const kind = call('type_of', [found], id);
  const nested: Truth = { kind: 'in', left: kind, right: { kind: 'array', items: [literal('array', id), literal('object', id)], id }, id };
  return choose(nested, literal(null, id), type === undefined ? found : cast(found, type, id), id);
}

function composite(found: Expression, id: NodeId): Expression {
  const kind = call('type_of', [found], id);
  const is = (name: string): Truth => compare('==', kind, literal(name, id), id);
  return choose(or(id, is('array'), is('object')), found, literal(null, id), id);
}
