import type { Expression } from '../../../tree.ts';
import { printExpression } from '../../notation/print.ts';
import { functionNamed } from '../functions.ts';

interface Idiom {
  readonly name: string;
  readonly given: readonly Expression[];
  /** What stands between its arguments, and after them. */
  readonly by?: string;
  readonly end?: string;
}

/** What a function of SQL becomes where the notation has none like it: found again, it is written as that function. */
export function idiomOf(expression: Expression): Idiom | undefined {
  if (expression.kind !== 'call') return undefined;
  const text = printExpression(expression);
  return candidates(expression).find((one) => {
    const again = one.again ?? functionNamed(one.name).give(one.given as unknown as [Expression, ...Expression[]], expression.id);
    return printExpression(again) === text;
  });
}

function candidates(call: Expression & { kind: 'call' }): (Idiom & { readonly again?: Expression })[] {
  const [first, second, third] = call.arguments;
  const inner = second?.kind === 'call' ? second.arguments : [];
  if (call.name === 'coalesce' && first?.kind === 'arithmetic' && first.left.kind === 'call' && first.left.name === 'position_of') {
    const [text, part] = first.left.arguments;
    return [{ name: 'POSITION', given: [part!, text!], by: ' IN ' }];
  }
  if (call.name !== 'if') return [];
  if (second?.kind === 'call' && second.name === 'length') return [{ name: 'CHAR_LENGTH', given: [inner[0]!] }];
  if (second?.kind === 'call' && second.name === 'ceil' && inner[0]?.kind === 'call' && inner[0].name === 'number') {
    const [number] = inner;
    const { id } = call;
    const again: Expression = {
      ...call,
      arguments: [
        { kind: 'comparison', operator: '<', left: number!, right: { kind: 'literal', value: 0, id }, id },
        { ...second, arguments: [number!] },
        { ...second, name: 'floor', arguments: [number!] },
      ],
    };
    return [{ name: 'CAST', given: inner[0].arguments, end: ' AS INTEGER', again }];
  }
  if (second?.kind === 'literal' && second.value === null && third !== undefined) {
    const tests = first?.kind === 'and' ? first.operands : [first!];
    const last = tests[tests.length - 1];
    if (last?.kind === 'comparison' && last.operator === '==') return [{ name: 'NULLIF', given: [last.left, last.right] }];
  }
  return [];
}
