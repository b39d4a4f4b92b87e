import { keyTexts, readDefinition } from '../../indexes/definition.ts';
import { aroundOf } from '../paths/disjunctions.ts';
import { candidateKeys } from './candidateKeys.ts';
import { unionPaths } from '../paths/sets.ts';
import type { PlannedSource, Selectivity } from '../source.ts';
import { imagined } from '../statistics.ts';
import type { Constant } from '../paths/keyConditions.ts';
import type { AccessQuestion, AccessPath, AnyIndex } from '../paths/path.ts';

/** Disjunction of which each takes an index of its own; for more than these nobody wants to keep so many. */
const mostTogether = 4;

/** Indexes that are of use together alone, for an `||` whose alternatives ask for different keys: those that are not there yet. */
export function pathsTogether(
  source: PlannedSource,
  question: AccessQuestion,
  selectivity: Selectivity,
  valueOf: Constant,
): { readonly missing: readonly (readonly string[])[]; readonly way: AccessPath }[] {
  return question.alternatives.flatMap((alternatives) => {
    const { options } = alternatives;
    if (options.length > mostTogether) return [];
    const { conditions: around } = aroundOf(alternatives, question);
    const known = new Set(source.indexes.map(({ definition }) => keyTexts(definition).join()));
    const made = options
      .flatMap(({ conditions }) => candidateKeys({ conditions: [...conditions, ...around], order: [] }, selectivity))
      .filter((keys) => !known.has(keys.join()) && known.add(keys.join()))
      .map((keys) => imagined(readDefinition({ keys }), source.sample()));
    const ways = unionPaths({ source, question: { ...question, alternatives: [alternatives] }, selectivity }, { ordered: [...source.indexes, ...made], others: source.others, valueOf }); // prettier-ignore
    return ways.map((way) => {
      const used = new Set<AnyIndex | undefined>(way.set?.parts.map(({ statistics }) => statistics));
      return { way, missing: made.filter((statistics) => used.has(statistics)).map(({ definition }) => keyTexts(definition)) };
    });
  }).filter(({ missing }) => missing.length > 0); // prettier-ignore
}
