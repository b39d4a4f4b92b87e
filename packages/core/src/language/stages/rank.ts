import { withSubtree } from '../../shape/fieldTree.ts';
import { checkKey } from '../checkExpression.ts';
import { parseExpression } from '../surfaces/notation/expressions.ts';
import { parseGivenName, printGivenName } from '../surfaces/notation/names.ts';
import { printExpression } from '../surfaces/notation/print.ts';
import { commaSeparated } from '../surfaces/notation/reader.ts';
import { numberTree } from './knownTrees.ts';
import { parseOrderKey, printOrderKey } from './order.ts';
import { warnOfOverwriting } from './overwriting.ts';
import type { RankKind, RankStage } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import { covers, no, none, readIn } from './traits.ts';

function definition<K extends RankKind>(kind: K, words: readonly string[], doc: string): StageDefinition<RankStage<K>> {
  return {
    words,
    doc,
    example: `${words.join(' ')} as place partition by @.region order by @.altitudeM desc`,
    parse: (reader) => {
      reader.expectWord('as');
      const target = parseGivenName(reader);
      let partition: RankStage['partition'] = [];
      if (reader.takeWord('partition')) {
        reader.expectWord('by');
        partition = commaSeparated(reader, () => parseExpression(reader));
      }
      reader.expectWord('order');
      reader.expectWord('by');
      return { kind, target, partition, keys: commaSeparated(reader, () => parseOrderKey(reader)) };
    },
    print: ({ target, partition, keys }) => {
      const parts = partition.length === 0 ? '' : ` partition by ${partition.map(printExpression).join(', ')}`;
      return `${words.join(' ')} as ${printGivenName(target.names)}${parts} order by ${keys.map(printOrderKey).join(', ')}`;
    },
    expressions: ({ partition, keys }) => [...partition, ...keys.map(({ expression }) => expression)],
    traits: {
      gives: () => 'one',
      decidedBy: 'rows',
      order: 'kept',
      // Ties go by insertion order.
      looksAtOrder: no,
      keepsOnly: none,
      worksOnParts: true,
      writes: ({ target }) => [target.names],
      source: none,
      made: ({ target, partition, keys }, field) =>
        covers(target.names, field)
          ? { text: 'its rank', from: [...partition, ...keys.map(({ expression }) => expression)].flatMap(readIn), sources: [] }
          : undefined,
    },
    check: ({ target, partition, keys }, scope) => {
      for (const expression of [...partition, ...keys.map((key) => key.expression)]) checkKey(expression, scope);
      warnOfOverwriting(target, scope);
    },
    effect: ({ target }, before) => withSubtree(before, target.names, numberTree),
  };
}

export const rank = definition('rank', ['rank'], 'Puts the rank of each row under a name: 1, 2, 2, 4. The rows stay in their order.');
export const denseRank = definition('denseRank', ['dense', 'rank'], 'Puts the dense rank of each row under a name: 1, 2, 2, 3.');
export const rowNumber = definition(
  'rowNumber',
  ['row', 'number'],
  'Puts the number of each row under a name: 1, 2, 3, 4; ties go by insertion order.',
);
