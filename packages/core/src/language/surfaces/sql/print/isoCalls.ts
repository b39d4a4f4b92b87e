import type { Expression } from '../../../tree.ts';
import { collectedIn } from './collected.ts';
import { isNull } from './known.ts';
import { Unsaid, type ExpressionWriter, type Row } from './writer.ts';

/** How the parts of a call are written; an operand stands in brackets where it needs them. */
interface Writes extends ExpressionWriter {
  readonly operand: (expression: Expression, row: Row) => string;
}

const plain: Readonly<Record<string, string>> = {
  upper: 'UPPER', lower: 'LOWER', replace: 'REPLACE', abs: 'ABS', floor: 'FLOOR', ceil: 'CEIL', round: 'ROUND', sqrt: 'SQRT', pow: 'POWER',
  exp: 'EXP', ln: 'LN', coalesce: 'COALESCE',
}; // prettier-ignore

export function isoCall(call: Expression & { kind: 'call' }, row: Row, write: Writes): string {
  const given = call.arguments;
  const all = (): string => given.map((one) => write.value(one, row)).join(', ');
  if (Object.hasOwn(plain, call.name)) return `${plain[call.name]}(${all()})`;
  switch (call.name) {
    case 'or_null':
      return write.value(given[0]!, row);
    case 'concat':
      return given.map((one) => write.operand(one, row)).join(' || ');
    case 'now':
      return 'CURRENT_TIMESTAMP';
    case 'number':
      return `CAST(${write.value(given[0]!, row)} AS NUMERIC)`;
    case 'text':
      return `CAST(${write.value(given[0]!, row)} AS TEXT)`;
    case 'boolean':
      return `CAST(${write.value(given[0]!, row)} AS BOOLEAN)`;
    case 'if': {
      const collected = collectedIn(given, (one) => write.value(one, row));
      if (collected !== undefined) return collected;
      return `CASE WHEN ${write.condition(given[0]!, row)} THEN ${write.value(given[1]!, row)}${isNull(given[2]!) ? '' : ` ELSE ${write.value(given[2]!, row)}`} END`;
    }
    case 'date_part': {
      const [unit, date] = given;
      if (unit?.kind === 'literal' && unit.value !== 'weekday' && unit.value !== 'week') return `EXTRACT(${String(unit.value).toUpperCase()} FROM ${write.value(date!, row)})`;
      break;
    }
    case 'trim':
      if (given[1]?.kind === 'literal' && given[1].value === ' ') return `TRIM(${write.value(given[0]!, row)})`;
      break;
    case 'substring':
      return substring(given, row, write);
  }
  throw new Unsaid(`the function ${call.name}`);
} // prettier-ignore

function substring([text, from, length]: readonly Expression[], row: Row, write: Writes): string {
  if (from?.kind !== 'literal' || typeof from.value !== 'number') throw new Unsaid('substring from a place that is worked out');
  return `SUBSTRING(${write.value(text!, row)} FROM ${from.value + 1}${length === undefined ? '' : ` FOR ${write.value(length, row)}`})`;
}
