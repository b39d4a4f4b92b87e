import { checkCondition } from '../checkExpression.ts';
import { parseExpression } from '../surfaces/notation/expressions.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import type { WhereStage } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import { no, none, nothing } from './traits.ts';

const lineLength = 90;

export const where: StageDefinition<WhereStage> = {
  words: ['where'],
  doc: 'Keeps the rows for which a condition holds.',
  example: 'where @.status == "late" && @.party.size >= 4',
  parse: (reader) => ({ kind: 'where', condition: parseExpression(reader) }),
  print: ({ condition }) => {
    const line = `where ${printExpression(condition)}`;
    if (line.length <= lineLength || condition.kind !== 'and') return line;
    const operand = (i: number) => printExpression({ ...condition, operands: [condition.operands[i]!] });
    return `where ${condition.operands.map((_, i) => operand(i)).join('\n  && ')}`;
  },
  expressions: ({ condition }) => [condition],
  traits: {
    gives: () => 'at most one',
    decidedBy: 'row',
    order: 'kept',
    looksAtOrder: no,
    keepsOnly: none,
    worksOnParts: true,
    writes: nothing,
    source: none,
    made: none,
  },
  check: ({ condition }, scope) => {
    // A parameter may stand for one of the conditions that have to hold together.
    for (const one of condition.kind === 'and' ? condition.operands : [condition]) if (one.kind !== 'parameter') checkCondition(one, scope);
  },
  effect: (_stage, before) => before,
};
