import { splitKeys } from '../src/parts/keys.ts';
import { bytes, count, counted, duration, figure, percent, workedOut } from '../src/parts/numbers.ts';

test.each<[string, string[]]>([
  ['@.status, @.arrivesOn desc', ['@.status', '@.arrivesOn desc']],
  ['fold(concat(@.a, ", ", @.b)), @["x,y"]', ['fold(concat(@.a, ", ", @.b))', '@["x,y"]']],
  ["@['it\\'s, so'] desc,", ["@['it\\'s, so'] desc"]],
  ['  ', []],
  [',,@.a,', ['@.a']],
])('%s are the keys %j', (text, keys) => expect(splitKeys(text)).toEqual(keys));

test.each<[number, string]>([
  [0, '0\u00a0%'],
  [0.000_1, '<\u00a01\u00a0%'],
  [0.01, '1\u00a0%'],
  [0.076, '7.6\u00a0%'],
  [0.5, '50\u00a0%'],
  [0.951, '95.1\u00a0%'],
  [0.999, '>\u00a099\u00a0%'],
  [1, '100\u00a0%'],
])('a share of %d is never told as none or all where it is not: %s', (share, text) => expect(percent(share)).toBe(text));

test.each<[number, string]>([
  [0.001, '0 ms'],
  [0.01, '0.01 ms'],
  [0.25, '0.25 ms'],
  [0.999, '1 ms'],
  [9.94, '9.9 ms'],
  [812.4, '812 ms'],
  [12_340, '12.3 s'],
])('%d ms are told as %s', (ms, text) => expect(duration(ms)).toBe(text));

test.each<[number, string]>([
  [0, '0 B'],
  [1_023, '1,023 B'],
  [2_048, '2 KB'],
  [50_331_648, '48 MB'],
])('%d bytes are told as %s', (size, text) => expect(bytes(size)).toBe(text));

test('counts have their words', () => {
  expect([count(1_234_567), counted(1, 'row'), counted(0, 'row'), counted(2, 'index entry', 'index entries')]).toEqual([
    '1,234,567',
    '1 row',
    '0 rows',
    '2 index entries',
  ]);
});

test.each<[number, string]>([
  [0, '0'],
  [43.271, '43.271'],
  [1_234_567.5, '1,234,567.5'],
  [0.000_000_12, '1.2e-7'],
  [0.123_456_789, '0.123456789'],
  [-3e-9, '-3e-9'],
  [1e300, '1e+300'],
])('a value of %d is told as it is: %s', (value, text) => {
  expect(figure(value)).toBe(text);
  expect(workedOut(value)).toBe(text);
});

test('what was added up is told without what that leaves behind', () => {
  expect([workedOut(0.1 + 0.2), workedOut(1.005 * 100)]).toEqual(['0.3', '100.5']);
});
