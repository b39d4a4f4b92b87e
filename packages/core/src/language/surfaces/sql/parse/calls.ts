import { nearest } from '../../../diagnostics/nearest.ts';
import { commaSeparated } from '../../notation/reader.ts';
import { faults } from '../faults.ts';
import { functionNames } from '../functions.ts';
import type { SqlReader } from '../sqlReader.ts';
import { sqlAggregates, sqlTypes, type SqlAggregate, type SqlAggregateName, type SqlExpression, type SqlOrderKey, type SqlType } from '../tree.ts'; // prettier-ignore
import { parseJsonPath } from './jsonPaths.ts';
import { parseOrderKeys, parseWindow } from './order.ts';

type Token = SqlReader['token'];
type Form = (reader: SqlReader, start: Token) => SqlExpression;

/** A name with brackets: a function, an aggregate, a window, or a form with words inside its brackets. The name is the current token. */
export function parseCall(reader: SqlReader): SqlExpression {
  const start = reader.token;
  const name = start.text.toUpperCase();
  const form = Object.hasOwn(specialForms, name) ? specialForms[name] : undefined;
  if (form === undefined && !functionNames.includes(name)) refuseFunction(reader, start);
  reader.take();
  reader.expectSign('(');
  if (form !== undefined) return form(reader, start);
  const given = reader.isSign(')') ? [] : commaSeparated(reader, () => reader.expression());
  reader.expectSign(')', '“,” or “)”');
  return { kind: 'call', name, arguments: given, ...reader.placeFrom(start) };
}

/** What one would write for functions that many know, and that are no part of what is taken. */
const instead: Readonly<Record<string, readonly [string, string?]>> = {
  LENGTH: ['CHAR_LENGTH counts the characters of a text.', 'CHAR_LENGTH'],
  IFNULL: ['COALESCE does this.', 'COALESCE'],
  NVL: ['COALESCE does this.', 'COALESCE'],
  CONCAT: ['Texts are joined with ||.'],
  SUBSTR: ['SUBSTRING does this.', 'SUBSTRING'],
  INSTR: ['POSITION(part IN text) does this.'],
  NOW: ['CURRENT_TIMESTAMP is the time at which the run began.'],
  ARRAY_AGG: ['JSON_ARRAYAGG collects values.', 'JSON_ARRAYAGG'],
  JSON_AGG: ['JSON_ARRAYAGG collects values.', 'JSON_ARRAYAGG'],
  STRING_AGG: ['JSON_ARRAYAGG collects values; one joins them where they are shown.', 'JSON_ARRAYAGG'],
  LISTAGG: ['JSON_ARRAYAGG collects values; one joins them where they are shown.', 'JSON_ARRAYAGG'],
  STDDEV: ['STDDEV_SAMP is that of a sample.', 'STDDEV_SAMP'],
  MEDIAN: ['PERCENTILE_CONT(0.5) WITHIN GROUP (ORDER BY x) is the median.'],
  LAG: ['ROW_NUMBER, RANK and DENSE_RANK are taken; join a question with itself by its row number for a neighbour.'],
  LEAD: ['ROW_NUMBER, RANK and DENSE_RANK are taken; join a question with itself by its row number for a neighbour.'],
  JSON_EXTRACT: ['A column’s path reaches inside: b.party.size; or JSON_VALUE(x, ‘$.…’).'],
};

function refuseFunction(reader: SqlReader, token: Token): never {
  const name = token.text.toUpperCase();
  const near = nearest(name, [...functionNames, ...Object.keys(specialForms), ...Object.keys(instead)]);
  const meant = Object.hasOwn(instead, name) ? name : near;
  const known = meant !== undefined && Object.hasOwn(instead, meant) ? instead[meant] : undefined;
  if (known !== undefined) return reader.reject(faults.notTaken(token, name, known[0], known[1]));
  return reader.reject(faults.unknownFunction(token, token.text, near));
}

const aggregate =
  (name: SqlAggregateName): Form =>
  (reader, start) => {
    const distinct = reader.takeWord('DISTINCT') !== undefined;
    if (!distinct) reader.takeWord('ALL');
    if (distinct && name !== 'COUNT' && name !== 'MIN' && name !== 'MAX')
      reader.reject(faults.notTaken(reader.previous, `DISTINCT in ${name}`, 'Only COUNT(DISTINCT x): take the rest from a subquery with SELECT DISTINCT.')); // prettier-ignore
    const star = name === 'COUNT' && !distinct && reader.takeSign('*') !== undefined;
    const argument = star ? undefined : reader.expression();
    const order = name === 'JSON_ARRAYAGG' && reader.takeWords('ORDER', 'BY') ? parseOrderKeys(reader) : [];
    if (name === 'JSON_ARRAYAGG') {
      if (reader.atWords('NULL', 'ON', 'NULL')) reader.reject(faults.notTaken(reader.token, 'NULL ON NULL in JSON_ARRAYAGG', 'NULLs are left out; COALESCE gives them another value.')); // prettier-ignore
      reader.takeWords('ABSENT', 'ON', 'NULL');
    }
    reader.expectSign(')');
    return finished(reader, start, { kind: 'aggregate', name, distinct, argument, share: undefined, order, filter: undefined });
  };

function finished(reader: SqlReader, start: Token, made: SqlAggregate): SqlExpression {
  let filter: SqlExpression | undefined;
  if (reader.takeWord('FILTER')) {
    reader.expectSign('(');
    reader.expectWord('WHERE');
    filter = reader.expression();
    reader.expectSign(')');
  }
  if (reader.isWord('OVER'))
    reader.reject(faults.notTaken(reader.token, `${made.name} with OVER`, 'Aggregate in a member of WITH, and join it.'));
  return { ...made, filter, ...reader.placeFrom(start) };
}

function typeName(reader: SqlReader): SqlType {
  const { token } = reader;
  const found = sqlTypes.find((type) => reader.takeWords(...type.split(' '))) ?? (reader.takeWord('INT') ? 'INTEGER' : undefined);
  if (found === undefined) reader.reject(faults.unknownType(token, token.kind === 'name' ? nearest(token.text.toUpperCase(), sqlTypes) : undefined, sqlTypes)); // prettier-ignore
  if (reader.takeSign('(')) {
    commaSeparated(reader, () => (reader.token.kind === 'number' ? reader.take() : reader.fail('a number')));
    reader.expectSign(')');
  }
  return found;
}
export { typeName as parseType };

const json =
  (what: 'value' | 'query' | 'exists'): Form =>
  (reader, start) => {
    const argument = reader.expression();
    reader.expectSign(',', '“,” and a path');
    const path = parseJsonPath(reader);
    const returning = what === 'value' && reader.takeWord('RETURNING') ? typeName(reader) : undefined;
    reader.expectSign(')');
    return { kind: 'json', what, argument, path, returning, ...reader.placeFrom(start) };
  };

/** NULL ON NULL or ABSENT ON NULL, at the end of a constructor. */
function onNull(reader: SqlReader, usual: boolean): boolean {
  if (reader.takeWords('NULL', 'ON', 'NULL')) return true;
  return reader.takeWords('ABSENT', 'ON', 'NULL') ? false : usual;
}

const ranking =
  (name: 'ROW_NUMBER' | 'RANK' | 'DENSE_RANK'): Form =>
  (reader, start) => {
    reader.expectSign(')');
    reader.expectWord('OVER');
    const { partition, order } = parseWindow(reader, name);
    return { kind: 'window', name, partition, order, ...reader.placeFrom(start) };
  };

function percentile(reader: SqlReader, start: Token): SqlExpression {
  const share = reader.expression();
  reader.expectSign(')');
  reader.expectWord('WITHIN');
  reader.expectWord('GROUP');
  reader.expectSign('(');
  reader.expectWord('ORDER');
  reader.expectWord('BY');
  const order: readonly SqlOrderKey[] = parseOrderKeys(reader);
  reader.expectSign(')');
  return finished(reader, start, { kind: 'aggregate', name: 'PERCENTILE_CONT', distinct: false, argument: order[0]!.expression, share, order, filter: undefined }); // prettier-ignore
}

function objectOf(reader: SqlReader, start: Token): SqlExpression {
  const entry = (): { name: string; value: SqlExpression } => {
    const keyed = reader.isWord('KEY') && reader.next.kind === 'string' ? reader.take() : undefined;
    const { token } = reader;
    if (token.kind !== 'string') reader.fail('a name in quotes, such as ‘hut’: b.hutId');
    reader.take();
    if (!reader.takeSign(':') && !reader.takeWord('VALUE') && keyed === undefined) reader.fail('“:” or VALUE');
    return { name: token.kind === 'string' ? token.value : '', value: reader.expression() };
  };
  const empty = reader.isSign(')') || reader.atWords('NULL', 'ON') || reader.atWords('ABSENT', 'ON');
  const entries = empty ? [] : commaSeparated(reader, entry);
  const nulls = onNull(reader, true);
  reader.expectSign(')', '“,” or “)”');
  return { kind: 'object', entries, nulls, ...reader.placeFrom(start) };
}

function arrayOf(reader: SqlReader, start: Token): SqlExpression {
  const empty = reader.isSign(')') || reader.atWords('NULL', 'ON') || reader.atWords('ABSENT', 'ON');
  const items = empty ? [] : commaSeparated(reader, () => reader.expression());
  const nulls = onNull(reader, false);
  reader.expectSign(')', '“,” or “)”');
  return { kind: 'array', items, nulls, ...reader.placeFrom(start) };
}

function substring(reader: SqlReader, start: Token): SqlExpression {
  const text = reader.expression();
  const from = reader.takeWord('FROM') ?? reader.expectSign(',', 'FROM or “,”');
  const place = reader.expression();
  const length = (from.kind === 'name' ? reader.takeWord('FOR') : reader.takeSign(',')) ? [reader.expression()] : [];
  reader.expectSign(')');
  return { kind: 'call', name: 'SUBSTRING', arguments: [text, place, ...length], ...reader.placeFrom(start) };
}

function trim(reader: SqlReader, start: Token): SqlExpression {
  const side = (['LEADING', 'TRAILING'] as const).find((word) => reader.isWord(word));
  if (side !== undefined) reader.reject(faults.notTaken(reader.token, `TRIM(${side} …)`, 'TRIM takes spaces off both ends.'));
  reader.takeWord('BOTH');
  reader.takeWord('FROM');
  const text = reader.expression();
  if (reader.isWord('FROM')) reader.reject(faults.notTaken(reader.token, 'TRIM of other characters', 'TRIM takes spaces off both ends.'));
  reader.expectSign(')');
  return { kind: 'call', name: 'TRIM', arguments: [text], ...reader.placeFrom(start) };
}

/** Forms that are no list of arguments. */
export const specialForms: Readonly<Record<string, Form>> = {
  ...Object.fromEntries(sqlAggregates.map((name) => [name, aggregate(name)])),
  PERCENTILE_CONT: percentile,
  ROW_NUMBER: ranking('ROW_NUMBER'),
  RANK: ranking('RANK'),
  DENSE_RANK: ranking('DENSE_RANK'),
  CAST: (reader, start) => {
    const operand = reader.expression();
    reader.expectWord('AS');
    const type = typeName(reader);
    reader.expectSign(')');
    return { kind: 'cast', operand, type, ...reader.placeFrom(start) };
  },
  EXTRACT: (reader, start) => {
    const unit = reader.expectName('YEAR, MONTH, DAY, HOUR, MINUTE or SECOND');
    const units = ['YEAR', 'MONTH', 'DAY', 'HOUR', 'MINUTE', 'SECOND'];
    if (!units.includes(unit.text.toUpperCase())) reader.reject(faults.expected(unit, units.join(', '), `“${unit.text}”`, nearest(unit.text.toUpperCase(), units))); // prettier-ignore
    reader.expectWord('FROM');
    const operand = reader.expression();
    reader.expectSign(')');
    return { kind: 'extract', unit: unit.text.toLowerCase(), operand, ...reader.placeFrom(start) };
  },
  POSITION: (reader, start) => {
    const part = reader.sum();
    reader.expectWord('IN');
    const text = reader.sum();
    reader.expectSign(')');
    return { kind: 'call', name: 'POSITION', arguments: [part, text], ...reader.placeFrom(start) };
  },
  SUBSTRING: substring,
  TRIM: trim,
  JSON_OBJECT: objectOf,
  JSON_ARRAY: arrayOf,
  JSON_VALUE: json('value'),
  JSON_QUERY: json('query'),
  JSON_EXISTS: json('exists'),
};
