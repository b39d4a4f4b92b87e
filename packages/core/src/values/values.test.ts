import fc from 'fast-check';
import { equalValues } from './equality.ts';
import { keyOf, keyOfAll } from './keys.ts';
import { readElement, readField, writeField } from './fields.ts';
import type { JsonObject, Value } from './json.ts';
import { kindOf } from './kind.ts';
import { normalizedPath } from './normalizedPath.ts';
import { compareText, compareValues, type Direction, type NullsPlace } from './order.ts';
import { stableOrder } from './orderInSteps.ts';

const value: fc.Arbitrary<Value> = fc.oneof(
  fc.constantFrom<Value>(undefined, null, true, false, 0, -0, 1, -1.5, 1e300, '', 'a', 'A', 'é', '\uffff', '😀', [], {}),
  fc.jsonValue({ maxDepth: 2 }) as fc.Arbitrary<Value>,
);

describe('values', () => {
  test('their order is total: of any three it is one way round, and equal means equal', () => {
    fc.assert(
      fc.property(value, value, value, (a, b, c) => {
        expect(Math.sign(compareValues(a, b))).toBe(-Math.sign(compareValues(b, a)) + 0);
        expect(compareValues(a, b) === 0).toBe(equalValues(a, b));
        if (compareValues(a, b) <= 0 && compareValues(b, c) <= 0) expect(compareValues(a, c)).toBeLessThanOrEqual(0);
      }),
      { numRuns: 2_000 },
    );
  });

  test('two values share a key exactly when they are equal; and two lists of values do', () => {
    fc.assert(
      fc.property(value, value, (a, b) => expect(keyOf(a) === keyOf(b)).toBe(equalValues(a, b))),
      { numRuns: 2_000 },
    );
    const tricky = fc.oneof(value, fc.string({ unit: fc.constantFrom('\0', '"', ':', '1', 'a', '#', ';'), maxLength: 6 }));
    const list = fc.array(tricky, { maxLength: 3 });
    fc.assert(
      fc.property(list, list, (a, b) => {
        const same = a.length === b.length && a.every((one, i) => equalValues(one, b[i]));
        expect(keyOfAll(a) === keyOfAll(b)).toBe(same);
      }),
      { numRuns: 3_000 },
    );
    expect(keyOfAll(['a\0"b', 'c'])).not.toBe(keyOfAll(['a', 'b\0"c']));
  });

  test('a key grows with its value, however deep', () => {
    const deep = (levels: number) => JSON.parse('['.repeat(levels) + '1' + ']'.repeat(levels)) as Value;
    expect(String(keyOf(deep(500))).length).toBeLessThan(3 * 500);
    expect(keyOf(deep(500))).not.toBe(keyOf(deep(499)));
  });

  test('kinds stand in their order, null and missing last', () => {
    const inOrder: Value[] = [
      false,
      true,
      -2,
      0,
      10,
      '',
      'a',
      'b',
      [],
      [1],
      [1, 2],
      [2],
      {},
      { a: 1 },
      { a: 2 },
      { a: 1, b: 1 },
      { b: 0 },
      null,
    ];
    const shuffled = inOrder.map((_, i) => inOrder[(i * 7) % inOrder.length]);
    expect(shuffled.sort(compareValues)).toEqual(inOrder);
    expect(compareValues(null, undefined)).toBeLessThan(0);
  });

  test.each([
    ['a', 'b', -1],
    ['a', 'a', 0],
    ['a', 'ab', -1],
    ['Z', 'a', -1],
    ['\u{10000}', '\uffff', 1],
    ['\ue000', '\u{10ffff}', -1],
    ['x\ud800', 'x\ud7ff', 1],
    ['😀', '😁', -1],
  ])('by code point %j stands to %j as %d', (a, b, sign) => {
    expect(Math.sign(compareText(a, b))).toBe(sign);
    expect(Math.sign(compareText(b, a))).toBe(-sign + 0);
  });

  test.each<[Value, string]>([
    [undefined, 'missing'],
    [null, 'null'],
    [false, 'boolean'],
    [0, 'number'],
    ['', 'text'],
    [[], 'array'],
    [{}, 'object'],
  ])('%j is %s', (one, kind) => expect(kindOf(one)).toBe(kind));

  test('fields are an object’s own, whatever their names', () => {
    const made: JsonObject = {};
    for (const name of ['__proto__', 'constructor', 'toString', 'plain']) {
      expect(readField(made, name)).toBeUndefined();
      writeField(made, name, name.length);
      expect(readField(made, name)).toBe(name.length);
    }
    expect(Object.keys(made)).toEqual(['__proto__', 'constructor', 'toString', 'plain']);
    expect(JSON.parse(JSON.stringify(made))).toEqual(made);
    expect([readField('text', 'length'), readField([1], 'length'), readField(null, 'a')]).toEqual([undefined, undefined, undefined]);
    expect([readElement([1, 2], 0), readElement([1, 2], -1), readElement([1, 2], 2), readElement('ab', 0)]).toEqual([
      1,
      2,
      undefined,
      undefined,
    ]);
  });

  test('a normalized path is that of RFC 9535, 2.7', () => {
    expect(normalizedPath(['a', 0, "it's", '\n', '\u000b', '\\'])).toBe("$['a'][0]['it\\'s']['\\n']['\\u000b']['\\\\']");
  });
});

describe('the order of rows', () => {
  interface Column {
    values: Value[];
    direction: Direction;
    nulls: NullsPlace;
  }
  const isEmpty = (one: Value) => one === undefined || one === null;
  /** The plain way: every two rows compared by every key. */
  function byComparing(columns: readonly Column[], length: number): number[] {
    return Array.from({ length }, (_, i) => i).sort((a, b) => {
      for (const { values, direction, nulls } of columns) {
        const [x, y] = [values[a], values[b]];
        if (isEmpty(x) || isEmpty(y)) {
          if (isEmpty(x) !== isEmpty(y)) return isEmpty(x) === (nulls === 'first') ? -1 : 1;
          continue;
        }
        const order = compareValues(x, y);
        if (order !== 0) return direction === 'desc' ? -order : order;
      }
      return a - b;
    });
  }
  const direction = fc.constantFrom<Direction>('asc', 'desc');
  const nulls = fc.constantFrom<NullsPlace>('first', 'last');
  const columnOf = (of: fc.Arbitrary<Value>, length: number) =>
    fc.record({ values: fc.array(of, { minLength: length, maxLength: length }), direction, nulls });

  test.each<[string, fc.Arbitrary<Value>]>([
    ['numbers', fc.constantFrom<Value>(3, 1, 2, -0, 0, 1e9, undefined, null)],
    ['texts', fc.constantFrom<Value>('b', 'a', 'ab', '', 'é', '\uffff', '😀', null, undefined)],
    ['whatever comes', value],
  ])('of %s by two keys is that of comparing them one by one', (_, of) => {
    const columns = fc.nat(60).chain((length) => fc.tuple(columnOf(of, length), columnOf(of, length)));
    fc.assert(
      fc.property(columns, (both) => {
        expect([...stableOrder(both, both[0].values.length)]).toEqual(byComparing(both, both[0].values.length));
      }),
      { numRuns: 300 },
    );
  });

  /** Texts that end at and around the places where stretches of them are packed, behind beginnings that they share. */
  const units = fc.oneof(
    fc.constantFrom('a', 'b', ' ', '\0', '\u007f', '\u0080', 'é', '\ud7ff', '\ue000', '\uffff', '😀', '\u{10ffff}', '\ud800', '\udc00'),
    fc.constantFrom('a', 'b'),
  );
  const packedText = fc
    .tuple(
      fc.constantFrom('', 'bathtub', 'bathtub row', 'abcdefg', 'abcdefgabcdefg', 'Béziers ', 'ééé', '😀'),
      fc.string({ unit: units, maxLength: 16 }),
    )
    .map((parts) => parts.join(''));
  test('of texts that end where stretches of them are packed', () => {
    const sizes = fc.constantFrom(9, 64, 511, 512, 513, 600);
    fc.assert(
      fc.property(
        sizes.chain((size) => columnOf(fc.oneof({ weight: 30, arbitrary: packedText }, fc.constantFrom<Value>(null, undefined, 7)), size)),
        (column) => {
          expect([...stableOrder([column], column.values.length)]).toEqual(byComparing([column], column.values.length));
        },
      ),
      { numRuns: 150 },
    );
  });

  test.each<[string, (i: number) => Value]>([
    ['texts that end with a stretch', (i) => (i < 3 ? ['bathtub', 'bathtub row', 'bathtub man'][i] : `x${i}`)],
    ['texts of which one is not ASCII', (i) => (i === 0 ? 'Ann' : i === 4_999 ? 'é' : `Ann${i}`)],
    ['texts with beginnings that are not ASCII', (i) => `${i % 2 ? 'Béziers' : 'Caen'} ${i}`],
    ['numbers that no double holds', (i) => (i % 3 ? i : i % 2 ? Infinity : -Infinity)],
    ['many kinds', (i) => [i, `t${i}`, i % 2 === 0, null, [i], { a: i }, undefined][i % 7]],
    ['many different texts', (i) => `guest ${(i * 7_919) % 5_003}`],
    ['texts in their order', (i) => `guest ${10_000 + i}`],
    ['texts in their order but for the last', (i) => `guest ${i === 4_999 ? 1 : 10_000 + i}`],
    ['texts that tie in their order', (i) => (i % 11 === 0 ? null : `guest ${10_000 + Math.floor(i / 1.5)}`)],
    ['texts against their order', (i) => `guest ${20_000 - i}`],
    ['few different texts', (i) => ['open', 'held', 'done', null][i % 4]],
    ['texts beyond the basic plane', (i) => (i % 3 ? `😀${i % 97}` : `\uffff${i % 89}`)],
    ['whole numbers', (i) => (i * 7_919) % 1_009],
    ['numbers of all sizes', (i) => Math.sin(i) * 10 ** (i % 20)],
  ])('of 5,000 rows: %s', (_, valueOf) => {
    const values = Array.from({ length: 5_000 }, (_, i) => valueOf(i));
    for (const way of ['asc', 'desc'] as const) {
      const columns: Column[] = [{ values, direction: way, nulls: 'last' }];
      expect([...stableOrder(columns, values.length)]).toEqual(byComparing(columns, values.length));
    }
  });
});
