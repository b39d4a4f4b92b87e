import { checkPipeline, usualSurface } from '@zesty-sieve/core/language';
import { dateForm, shownValue, valueExpression } from '../src/parts/form/fields.ts';
import { parametersFor } from '../src/state/bench/parameters.ts';

test.each<[string, string[], string]>([
  ['late', ['text'], '"late"'],
  ['4', ['text'], '"4"'],
  ['4', ['number'], '4'],
  ['4', ['number', 'text'], '4'],
  ['true', ['boolean'], 'true'],
  [':least', ['text'], ':least'],
  ['now()', ['text'], 'now()'],
  ['null', ['text'], 'null'],
])('%s in the input of a field of %j is %s', (typed, kinds, expression) => {
  expect(valueExpression(typed, kinds as never)).toBe(expression);
  expect(shownValue(expression)).toBe(typed);
});

test('dates are known by the least and the greatest value', () => {
  const info = (least: string, greatest: string) => ({ types: { text: 1 }, presence: 1, top: [], least, greatest });
  expect(dateForm(info('2025-01-01', '2026-02-02'))?.kind).toBe('date');
  expect(dateForm(info('2025-01-01T08:00:00Z', '2026-02-02T09:00+02:00'))?.kind).toBe('instant');
  expect(dateForm(info('2025-01-01', 'soon'))).toBeUndefined();
});

test('parameters are numbers, lists and words as they read', () => {
  expect(parametersFor({ a: '4', b: 'late', c: '["x"]', d: ' ', e: '"4"' })).toEqual({ a: 4, b: 'late', c: ['x'], e: '4' });
});

test('a condition that no index can serve is told of on big collections alone', () => {
  const codes = (text: string, documents: number) =>
    checkPipeline(usualSurface.parse(text), { documentsOf: () => documents }).diagnostics.map(({ code }) => code);
  expect(codes('from c\nwhere contains(@.t, "x")', 50_000)).toEqual(['unserved-condition']);
  expect(codes('from c\nwhere contains(@.t, "x")', 500)).toEqual([]);
  expect(codes('from c\nwhere contains(@.t, "x") && @.a == 1', 50_000)).toEqual([]);
  expect(codes('from c\nwhere @.a != 1\nwhere !@.b', 50_000)).toEqual(['unserved-condition', 'unserved-condition']);
  expect(codes('from c\nlimit 5\nwhere @.a != 1', 50_000)).toEqual([]);
});
