import { parseConditionText } from '../surfaces/notation/texts.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import type { Expression } from '../tree.ts';
import { conditionTests, type ConditionTest, type ConditionTestName } from './conditionTests.ts';

/** A condition as a form shows it. What no row can show stands as its text. */
export type ConditionForm =
  | { readonly kind: 'group'; readonly mode: GroupMode; readonly items: readonly ConditionForm[] }
  | { readonly kind: 'test'; readonly field: string; readonly test: ConditionTestName; readonly value: string }
  | { readonly kind: 'text'; readonly text: string };

/** All of them hold, any of them does, none of them does. */
export type GroupMode = 'all' | 'any' | 'none';

const testEntries = Object.entries(conditionTests) as [ConditionTestName, ConditionTest][];

/** The form of a condition: a group of rows at its head, however few. */
export function conditionForm(expression: Expression): ConditionForm & { kind: 'group' } {
  const form = formOf(expression);
  return form.kind === 'group' ? form : { kind: 'group', mode: 'all', items: [form] };
}

function formOf(expression: Expression): ConditionForm {
  for (const [test, { read }] of testEntries) {
    const found = read(expression);
    if (found !== undefined) return { kind: 'test', test, ...found };
  }
  if (expression.kind === 'and') return { kind: 'group', mode: 'all', items: expression.operands.map(formOf) };
  if (expression.kind === 'or') return { kind: 'group', mode: 'any', items: expression.operands.map(formOf) };
  if (expression.kind === 'not') {
    const inner = expression.operand;
    return { kind: 'group', mode: 'none', items: inner.kind === 'or' ? inner.operands.map(formOf) : [formOf(inner)] };
  }
  return { kind: 'text', text: printExpression(expression) };
}

/** The text of a form's condition; undefined where nothing is asked. */
export function conditionText(form: ConditionForm): string | undefined {
  switch (form.kind) {
    case 'text':
      return form.text.trim() === '' ? undefined : form.text;
    case 'test':
      return form.field === ''
        ? undefined
        : conditionTests[form.test].write(form.field, form.value === '' ? emptyValue(form.test) : form.value);
    case 'group': {
      const parts = form.items.flatMap((item) => {
        const text = conditionText(item);
        if (text === undefined) return [];
        const isLoose = item.kind === 'text' || (item.kind === 'group' && item.mode !== 'none');
        return [isLoose ? `(${text})` : text];
      });
      if (parts.length === 0) return undefined;
      if (form.mode === 'none') return `!(${parts.join(' || ')})`;
      return parts.join(form.mode === 'all' ? ' && ' : ' || ');
    }
  }
}

/** What stands for a value that has not been given yet. */
function emptyValue(test: ConditionTestName): string {
  return (conditionTests[test] as ConditionTest).takes === 'condition' ? '@' : '""';
}

/** The canonical text of a form, which reads back as the same form; undefined where it is not sound. */
export function canonicalCondition(form: ConditionForm): string | undefined {
  const text = conditionText(form);
  const read = text === undefined ? undefined : parseConditionText(text, true);
  return read !== undefined && 'expression' in read ? printExpression(read.expression) : undefined;
}
