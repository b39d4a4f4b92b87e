import fc from 'fast-check';
import { parseConditionText } from '../surfaces/notation/texts.ts';
import { canonicalCondition, conditionForm, type ConditionForm } from './conditionForm.ts';
import { conditionTests, type ConditionTestName } from './conditionTests.ts';

function formOf(text: string): ConditionForm {
  const read = parseConditionText(text);
  if ('finding' in read) throw new Error(read.finding.message);
  return conditionForm(read.expression);
}

test.each<[string, unknown]>([
  ['@.status == "late"', [{ field: '@.status', test: 'is', value: '"late"' }]],
  ['@.a.b >= 4 && @.a.b <= 9', [{ field: '@.a.b', test: 'between', value: '[4, 9]' }]],
  ['!@.guide && @.tags', [{ test: 'isMissing' }, { test: 'isThere' }]],
  ['includes_all(@.fittings, ["stove"]) && length(@.tags) == 3', [{ test: 'hasAll' }, { test: 'lengthIs', value: '3' }]],
  [
    '@.n in [1, 2] && @.nights[?@.fee > 40]',
    [
      { test: 'oneOf', value: '[1, 2]' },
      { field: '@.nights', test: 'elementWhere', value: '@.fee > 40' },
    ],
  ],
  ['@.a && @.nights[?@.fee > 40].fee', [{ test: 'isThere' }, { kind: 'text', text: '@.nights[?@.fee > 40].fee' }]],
  [
    '@.a == 1 && (@.b == 2 || !(@.c == 3 || @.d == 4))',
    [{ test: 'is' }, { mode: 'any', items: [{ test: 'is' }, { mode: 'none', items: [{}, {}] }] }],
  ],
])('%s', (text, items) => {
  const form = formOf(text);
  expect(form.kind === 'group' && form.mode === 'all' && form.items[0].kind === 'group' ? form.items : form).toMatchObject(
    form.kind === 'group' && form.items.length === 0 ? {} : { items },
  );
  expect(canonicalCondition(form)).toBe(text);
});

const field = fc.constantFrom('@.a', '@.b.c', "@['x y']", '@.list[0]');
const value = fc.constantFrom('1', '"t"', ':p', '@.other', 'null', 'true', '-2.5');
const row: fc.Arbitrary<ConditionForm> = fc
  .tuple(field, fc.constantFrom(...(Object.keys(conditionTests) as ConditionTestName[])), value, value)
  .map(([f, test, a, b]) => {
    const { takes } = conditionTests[test];
    return {
      kind: 'test',
      field: f,
      test,
      value: { none: '', value: a, condition: `@.x == ${a} && @.y < 3`, list: `[${a}, ${b}]`, two: `[${a}, ${b}]` }[takes],
    };
  });
const { form } = fc.letrec<{ form: ConditionForm }>((tie) => ({
  form: fc.oneof(
    { maxDepth: 3 },
    row,
    fc.constant<ConditionForm>({ kind: 'text', text: '@.a + 1 < @.b' }),
    fc.record({
      kind: fc.constant('group' as const),
      mode: fc.constantFrom('all' as const, 'any' as const, 'none' as const),
      items: fc.array(tie('form'), { minLength: 1, maxLength: 3 }),
    }),
  ),
}));

test('form → text → form is the identity on what a form has written once', () => {
  fc.assert(
    fc.property(form, (made) => {
      const text = canonicalCondition(made);
      expect(text).toBeDefined();
      const again = formOf(text ?? '');
      expect(canonicalCondition(again)).toBe(text);
      expect(formOf(canonicalCondition(again) ?? '')).toEqual(again);
    }),
    { numRuns: 500 },
  );
});
