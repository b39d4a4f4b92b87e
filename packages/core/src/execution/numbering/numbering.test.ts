import fc from 'fast-check';
import type { Json, Value } from '../../values/json.ts';
import { keyOfAll } from '../../values/keys.ts';
import { PairTable } from './pairTable.ts';
import { TupleNumbers } from './tupleNumbers.ts';

const anyValue = fc.oneof<fc.Arbitrary<Value>[]>(
  fc.constantFrom<Value>(undefined, null, true, false, 0, -0, 1, 1.5, '', '0', 'a', '\u0000a', 'null'),
  fc.jsonValue({ maxDepth: 2 }) as fc.Arbitrary<Json>,
);

test.each([1, 2, 3, 4])('tuples of %i values have one number exactly where they are equal, counted as they come', (width) => {
  fc.assert(
    fc.property(fc.array(fc.array(anyValue, { minLength: width, maxLength: width }), { maxLength: 80 }), (tuples) => {
      const numbers = new TupleNumbers(Array.from({ length: width }, () => () => 0));
      const expected = new Map<string, number>();
      for (const tuple of tuples) {
        const key = keyOfAll(tuple);
        if (!expected.has(key)) expected.set(key, expected.size);
        expect(numbers.numberOf(...tuple)).toBe(expected.get(key));
      }
      expect(numbers.size).toBe(expected.size);
    }),
  );
});

test('pairs keep their numbers while the table grows', () => {
  const table = new PairTable();
  const pairs = Array.from({ length: 20_000 }, (_, i) => [i % 141, (i * 7_919) % 20_011] as const);
  expect(pairs.map(([a, b]) => table.numberOf(a, b))).toEqual(pairs.map((_, i) => i));
  expect(pairs.map(([a, b]) => table.numberOf(a, b))).toEqual(pairs.map((_, i) => i));
  expect(table.numberOf(141, 0)).toBe(20_000);
  // Four bytes for each of two numbers, and two to four slots of four bytes; capacities are powers of two.
  expect(table.held).toBeLessThan(20_001 * 2 * (8 + 8));
});

test('an equal text is held once, and what it takes is told', () => {
  const numbers = new TupleNumbers([(value) => String(value).length, () => 0]);
  const [a, b] = [['x', 'y'].join(''), ['x', 'y'].join('')];
  numbers.numberOf(a, 1);
  const held = numbers.held;
  numbers.numberOf(b, 1);
  expect(numbers.held).toBe(held);
  expect(numbers.heldText(0, b)).toBe('xy');
  numbers.numberOf('longer text', 2);
  expect(numbers.held).toBeGreaterThan(held + 'longer text'.length);
});
