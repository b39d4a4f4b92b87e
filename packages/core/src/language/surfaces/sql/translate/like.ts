import { ParseFailure } from '../../notation/reader.ts';
import type { Expression } from '../../../tree.ts';
import { faults } from '../faults.ts';
import type { SqlExpression } from '../tree.ts';
import { call, compare, literal, type Truth } from './build.ts';
import type { Meaning, NodeId } from './meaning.ts';

type Part = { readonly text: string } | '%' | '_';
type Like = SqlExpression & { readonly kind: 'like' };

/** LIKE (ISO/IEC 9075-2, 8.5): the simplest test that holds for the same texts; case is kept. */
export function likeTest(operand: Expression, node: Like, id: NodeId, m: Meaning): Truth {
  const parts = partsOf(node, m);
  const texts = parts.flatMap((part) => (typeof part === 'string' ? [] : [part.text]));
  const shape = parts.map((part) => (typeof part === 'string' ? part : 't')).join('');
  const text = literal(texts[0] ?? '', id);
  switch (shape) {
    case '':
    case 't':
      return compare('==', operand, text, id);
    case '%':
      return compare('==', call('type_of', [operand], id), literal('text', id), id);
    case 't%':
      return call('starts_with', [operand, text], id);
    case '%t':
      return call('ends_with', [operand, text], id);
    case '%t%':
      return call('contains', [operand, text], id);
    default:
      return call('match', [operand, literal(parts.map(pattern).join(''), id)], id);
  }
}

function partsOf(node: Like, m: Meaning): Part[] {
  const { pattern: written, escape } = node;
  if (escape !== undefined && [...escape].length !== 1)
    throw new ParseFailure(faults.badPattern(m.at(node), 'ESCAPE takes one character.'));
  const parts: Part[] = [];
  const add = (text: string): void => {
    const last = parts[parts.length - 1];
    if (typeof last === 'object') parts[parts.length - 1] = { text: last.text + text };
    else parts.push({ text });
  };
  const points = [...written];
  for (let i = 0; i < points.length; i++) {
    const point = points[i]!;
    if (point === escape) {
      const next = points[++i];
      if (next !== '%' && next !== '_' && next !== escape) throw new ParseFailure(faults.badPattern(m.at(node), `In this pattern, ${escape} stands before %, _ or itself only.`)); // prettier-ignore
      add(next);
    } else if (point === '%') {
      if (parts[parts.length - 1] !== '%') parts.push('%');
    } else if (point === '_') parts.push('_');
    else add(point);
  }
  return parts;
}

/** As an I-Regexp (RFC 9485), whose dot is no line break. */
function pattern(part: Part): string {
  if (part === '%') return '(.|\\n|\\r)*';
  if (part === '_') return '(.|\\n|\\r)';
  return part.text
    .replace(/[.\\?*+(){}[\]|^$-]/g, '\\$&')
    .replace(/\n/g, '\\n')
    .replace(/\r/g, '\\r')
    .replace(/\t/g, '\\t');
}
