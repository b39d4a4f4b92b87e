import fc from 'fast-check';
import { RowList } from './rowList.ts';

test('a page of the rows, a row and all of them, however they came', () => {
  const sizes = fc.array(fc.oneof(fc.nat(5), fc.nat(1_100), fc.constantFrom(1_023, 1_024, 1_025, 4_096)), { maxLength: 12 });
  fc.assert(
    fc.property(sizes, fc.nat(9_000), fc.nat(3_000), (parts, from, size) => {
      const list = new RowList();
      const plain: number[][] = [];
      for (const count of parts) {
        // A row may be an array itself.
        const rows = Array.from({ length: count }, (_, i) => [plain.length + i]);
        plain.push(...rows);
        list.add(rows);
      }
      expect(list.length).toBe(plain.length);
      expect(list.slice(from, from + size)).toEqual(plain.slice(from, from + size));
      expect(list.at(from)).toEqual(plain[from]);
      expect(list.all()).toEqual(plain);
    }),
  );
});
