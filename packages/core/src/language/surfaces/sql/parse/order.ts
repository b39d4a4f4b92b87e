import { commaSeparated } from '../../notation/reader.ts';
import { faults } from '../faults.ts';
import type { SqlReader } from '../sqlReader.ts';
import type { SqlExpression, SqlOrderKey } from '../tree.ts';

/** The keys after ORDER BY; NULL comes last unless it is said, in both directions. */
export function parseOrderKeys(reader: SqlReader): readonly [SqlOrderKey, ...SqlOrderKey[]] {
  return commaSeparated(reader, () => {
    const start = reader.token;
    const expression = reader.expression();
    const direction = reader.takeWord('DESC') ? 'desc' : 'asc';
    if (direction === 'asc') reader.takeWord('ASC');
    let nulls: SqlOrderKey['nulls'] = 'last';
    if (reader.takeWord('NULLS')) {
      if (reader.takeWord('FIRST')) nulls = 'first';
      else if (!reader.takeWord('LAST')) reader.fail('FIRST or LAST');
    }
    return { expression, direction, nulls, ...reader.placeFrom(start) };
  });
}

/** What stands in the brackets after OVER. */
export function parseWindow(
  reader: SqlReader,
  name: string,
): { readonly partition: readonly SqlExpression[]; readonly order: readonly SqlOrderKey[] } {
  const start = reader.token;
  reader.expectSign('(');
  const partition = reader.takeWords('PARTITION', 'BY') ? commaSeparated(reader, () => reader.expression()) : [];
  const order = reader.takeWords('ORDER', 'BY') ? parseOrderKeys(reader) : [];
  for (const word of ['ROWS', 'RANGE', 'GROUPS']) {
    if (reader.isWord(word)) reader.reject(faults.notTaken(reader.token, `A frame (${word})`, `${name} counts over the whole partition.`));
  }
  reader.expectSign(')');
  if (order.length === 0 && name !== 'ROW_NUMBER') reader.reject(faults.noOrder(reader.spanFrom(start), name));
  return { partition, order };
}
