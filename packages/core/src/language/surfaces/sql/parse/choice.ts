import type { SqlReader } from '../sqlReader.ts';
import type { SqlCase, SqlExpression } from '../tree.ts';

/** CASE, with conditions or with values of one operand (ISO/IEC 9075-2, 6.12). */
export function parseCase(reader: SqlReader): SqlExpression & SqlCase {
  const start = reader.take();
  const operand = reader.isWord('WHEN') ? undefined : reader.expression();
  const whens: { when: SqlExpression; then: SqlExpression }[] = [];
  do {
    reader.expectWord('WHEN');
    const when = reader.expression();
    reader.expectWord('THEN');
    whens.push({ when, then: reader.expression() });
  } while (reader.isWord('WHEN'));
  const otherwise = reader.takeWord('ELSE') ? reader.expression() : undefined;
  reader.expectWord('END');
  return { kind: 'case', operand, whens, otherwise, ...reader.placeFrom(start) };
}
