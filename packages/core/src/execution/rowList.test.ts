import fc from 'fast-check';
import { RowList } from './rowList.ts';

/** As a scan does: into the room that there is, until there is none. */
function fillIn(list: RowList, rows: readonly number[][]): void {
  for (let at = 0; at < rows.length;) {
    const room = list.room();
    const before = room.count;
    while (at < rows.length && room.count < room.rows.length) room.rows[room.count++] = rows[at++]!;
    list.filled(room.count - before);
  }
}

test('a page of the rows, a row and all of them, however they came', () => {
  const sizes = fc.array(fc.tuple(fc.oneof(fc.nat(5), fc.nat(1_100), fc.constantFrom(1_023, 1_024, 1_025, 4_096)), fc.boolean()), {
    maxLength: 12,
  });
  fc.assert(
    fc.property(sizes, fc.nat(9_000), fc.nat(3_000), (parts, from, size) => {
      const list = new RowList();
      const plain: number[][] = [];
      for (const [count, isFilledIn] of parts) {
        // A row may be an array itself.
        const rows = Array.from({ length: count }, (_, i) => [plain.length + i]);
        plain.push(...rows);
        if (isFilledIn) fillIn(list, rows);
        else list.add(rows);
        expect(list.at(plain.length - 1)).toEqual(plain.at(-1));
      }
      expect(list.length).toBe(plain.length);
      expect(list.slice(from, from + size)).toEqual(plain.slice(from, from + size));
      expect(list.at(from)).toEqual(plain[from]);
      expect(list.all()).toEqual(plain);
    }),
  );
});
