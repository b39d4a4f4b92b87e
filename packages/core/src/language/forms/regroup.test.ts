import fc from 'fast-check';
import type { ConditionForm } from './conditionForm.ts';
import { moveCondition } from './regroup.ts';

type Group = ConditionForm & { kind: 'group' };
const text = (name: string): ConditionForm => ({ kind: 'text', text: name });
const all = (...items: ConditionForm[]): Group => ({ kind: 'group', mode: 'all', items });
const any = (...items: ConditionForm[]): Group => ({ kind: 'group', mode: 'any', items });

test.each<[string, Group, number[], number[], number, Group]>([
  ['down within a group', all(text('a'), text('b'), text('c')), [0], [], 3, all(text('b'), text('c'), text('a'))],
  ['up within a group', all(text('a'), text('b'), text('c')), [2], [], 0, all(text('c'), text('a'), text('b'))],
  ['into a group', all(text('a'), any(text('b'))), [0], [1], 1, all(any(text('b'), text('a')))],
  ['out of a group, which goes when it is empty', all(text('a'), any(text('b'))), [1, 0], [], 0, all(text('b'), text('a'))],
  ['a group with all in it', all(any(text('a'), text('b')), any(text('c'))), [0], [1], 0, all(any(any(text('a'), text('b')), text('c')))],
  ['a group into itself stays', all(text('a'), any(text('b'))), [1], [1], 0, all(text('a'), any(text('b')))],
  ['from nowhere', all(text('a')), [4], [], 0, all(text('a'))],
])('%s', (_what, form, from, group, at, expected) => {
  expect(moveCondition(form, from, group, at)).toEqual(expected);
});

test('no move loses a condition or makes one twice', () => {
  const { form } = fc.letrec<{ form: ConditionForm }>((tie) => ({
    form: fc.oneof(
      { maxDepth: 3 },
      fc.uuid().map(text),
      fc.array(tie('form'), { minLength: 1, maxLength: 3 }).map((items) => any(...items)),
    ),
  }));
  const leaves = (at: ConditionForm): string[] => (at.kind === 'group' ? at.items.flatMap(leaves) : at.kind === 'text' ? [at.text] : []);
  const place = fc.array(fc.nat(2), { maxLength: 3 });
  fc.assert(
    fc.property(fc.array(form, { minLength: 1, maxLength: 4 }), place, place, fc.nat(4), (items, from, group, at) => {
      const before = all(...items);
      expect(leaves(moveCondition(before, from, group, at)).sort()).toEqual(leaves(before).sort());
    }),
  );
});
