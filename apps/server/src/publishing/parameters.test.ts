import type { PublishedParameter } from '@zesty-sieve/contract';
import { isDate, readParameters } from './parameters.ts';

const of = (parameter: Omit<PublishedParameter, 'name'>, given: unknown, saved = {}) =>
  readParameters([{ name: 'p', ...parameter }], given === undefined ? {} : { p: given }, saved);

test.each<[Omit<PublishedParameter, 'name'>, unknown, unknown]>([
  [{ kind: 'number' }, '-0.5', -0.5],
  [{ kind: 'number', choices: [1, 2] }, '2', 2],
  [{ kind: 'text' }, '', ''],
  [{ kind: 'text' }, '12', '12'],
  [{ kind: 'boolean' }, 'false', false],
  [{ kind: 'date' }, '2024-02-29', '2024-02-29'],
  [{ kind: 'date', least: '2026-01-01' }, '2026-01-01T00:00:00Z', '2026-01-01T00:00:00Z'],
  [{ kind: 'list' }, ['a', 'b'], ['a', 'b']],
  [{ kind: 'list', of: 'number' }, '3', [3]],
  [{ kind: 'condition', fields: ['@.a'] }, '@.a > 3', '@.a > 3'],
  [{ kind: 'number', default: 7 }, undefined, 7],
])('%j given %j is %j', (parameter, given, value) => expect(of(parameter, given)).toEqual({ values: { p: value } }));

test.each<[Omit<PublishedParameter, 'name'>, unknown]>([
  [{ kind: 'number' }, '1e999'],
  [{ kind: 'number' }, ' 3'],
  [{ kind: 'number' }, '0x10'],
  [{ kind: 'number' }, ''],
  [{ kind: 'number', greatest: 4 }, '5'],
  [{ kind: 'text' }, ['a', 'b']],
  [{ kind: 'text', choices: ['a'] }, 'b'],
  [{ kind: 'boolean' }, 'yes'],
  [{ kind: 'date' }, '2026-02-29'],
  [{ kind: 'date', greatest: '2026-01-01' }, '2026-01-02'],
  [{ kind: 'list', of: 'number' }, ['1', 'x']],
  [{ kind: 'condition', fields: ['@.a'] }, '@.b > 3'],
  [{ kind: 'condition', fields: ['@.a'] }, ''],
  [{ kind: 'text' }, undefined],
])('%j given %j is a fault', (parameter, given) => expect(of(parameter, given)).toMatchObject({ faults: [{ parameter: 'p' }] }));

test('a condition that is not given is none, and the value that was saved stands for what is not', () => {
  expect(of({ kind: 'condition', fields: [] }, undefined)).toEqual({ values: {} });
  expect(of({ kind: 'number' }, undefined, { p: 3, q: 4 })).toEqual({ values: { p: 3, q: 4 } });
});

test.each([['2000-02-29', true], ['1900-02-29', false], ['2026-13-01', false], ['2026-1-1', false], ['0000-01-01', true], ['2026-01-01 00:00', false], ['2026-01-01T24:00:00Z', false], ['2026-01-01T23:59:60+01:00', true]])('%s is a date: %p', (text, is) => expect(isDate(text)).toBe(is)); // prettier-ignore
