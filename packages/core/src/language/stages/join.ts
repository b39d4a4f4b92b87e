import { emptyTree, openTree, withSubtree, type FieldTree } from '../../shape/fieldTree.ts';
import { findings } from '../diagnostics/findings.ts';
import { nearest } from '../diagnostics/nearest.ts';
import { functionSignatures } from '../functions/signatures.ts';
import { checkCondition } from '../checkExpression.ts';
import { parseExpression } from '../surfaces/notation/expressions.ts';
import { parseGivenName, parseSourceName, printGivenName } from '../surfaces/notation/names.ts';
import { pathText, printExpression } from '../surfaces/notation/print.ts';
import type { Reader } from '../surfaces/notation/reader.ts';
import { arrayTree } from './knownTrees.ts';
import { warnOfOverwriting } from './overwriting.ts';
import { reservedWords } from './reserved.ts';
import type { JoinKind, JoinStage } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import { covers, no, none, type Gives } from './traits.ts';

/** The name by which the partner is called in `on`: the last part of where it is put. */
export function partnerName({ target }: Pick<JoinStage, 'target'>): string {
  return target.names[target.names.length - 1]!;
}

const givesOf: { readonly [K in JoinKind]: Gives } = { join: 'any', leftJoin: 'one or more', gatherJoin: 'one' };

function definition<K extends JoinKind>(kind: K, words: readonly string[], doc: string, example: string): StageDefinition<JoinStage<K>> {
  return {
    words,
    doc,
    example,
    parse: (reader) => parse(reader, kind),
    print: (stage) => `${words.join(' ')} ${stage.source} as ${printGivenName(stage.target.names)} on ${printExpression(stage.condition)}`,
    expressions: ({ condition }) => [condition],
    traits: {
      gives: () => givesOf[kind],
      decidedBy: 'row',
      order: 'kept',
      looksAtOrder: no,
      keepsOnly: none,
      worksOnParts: false,
      writes: ({ target }) => [target.names],
      source: ({ source, sourceId }) => ({ name: source, id: sourceId }),
      made: (stage, field) => {
        const { source, target, condition } = stage;
        if (!covers(target.names, field)) return undefined;
        const inner = pathText(field.slice(target.names.length));
        return { text: `brought in as ${partnerName(stage)}, on ${printExpression(condition)}`, from: [], sources: [`${source} ${inner}`] };
      },
    },
    check: (stage, scope) => {
      const { source, sourceId, target, condition } = stage;
      if (scope.collections !== undefined && !scope.collections.includes(source))
        scope.report(findings.unknownCollection(scope.at({ id: sourceId }), source, nearest(source, scope.collections)));
      warnOfOverwriting(target, scope);
      checkCondition(condition, { ...scope, partner: source, partners: new Map([[partnerName(stage), scope.shapeOf(source)]]) });
    },
    effect: ({ source, target }, before, { shapeOf }) => {
      const partner = shapeOf(source);
      const known = partner === undefined || partner === emptyTree ? openTree : partner;
      return withSubtree(
        before,
        target.names,
        kind === 'gatherJoin' ? arrayTree(known.open ? undefined : known) : present(known, kind === 'join'),
      );
    },
  };
}

/** The partner's fields as they stand in a row; a left join's may be missing. */
function present(tree: FieldTree, always: boolean): FieldTree {
  return tree.open ? tree : { ...tree, info: { types: { object: 1 }, presence: always ? 1 : 0.5, top: [] } };
}

function parse<K extends JoinKind>(reader: Reader, kind: K): JoinStage<K> {
  const { name: source, id } = parseSourceName(reader);
  reader.expectWord('as');
  const target = parseGivenName(reader);
  const name = target.names[target.names.length - 1]!;
  if (reservedWords.has(name) || Object.hasOwn(functionSignatures, name)) reader.reject(findings.reservedName(reader.at(target), name));
  reader.expectWord('on');
  const before = reader.partners;
  reader.partners = new Set([name]);
  const condition = reader.within({ kind: 'join', source, name }, () => parseExpression(reader));
  reader.partners = before;
  return { kind, source, sourceId: id, target, condition };
}

export const join = definition(
  'join',
  ['join'],
  'Gives one row for each match in another collection, the partner under a name. Rows without a match go.',
  'join huts as hut on hut.id == @.hutId',
);
export const leftJoin = definition(
  'leftJoin',
  ['left', 'join'],
  'Gives one row for each match in another collection; rows without a match stay, without the name.',
  'left join members as member on member.id == @.memberId',
);
export const gatherJoin = definition(
  'gatherJoin',
  ['gather', 'join'],
  'Gives one row for each row, with the array of its matches in another collection under a name.',
  'gather join reports as reports on reports.hutId == @.id && reports.severity >= 4',
);
