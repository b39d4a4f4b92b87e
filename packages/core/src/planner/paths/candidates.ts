import { readDefinition, type IndexDefinition, type IndexKindName } from '../../indexes/definition.ts';
import { indexKinds, kindOf } from '../../indexes/kinds.ts';
import type { Constant } from '../keyConditions.ts';
import type { Question } from '../ways.ts';
import { askedOf } from './positions.ts';

/** Indexes of kinds that answer with positions which the conditions of a question would have a use for. */
export function candidatesOfOtherKinds({ conjuncts }: Question, valueOf: Constant): IndexDefinition[] {
  const asked = askedOf(conjuncts, valueOf);
  return (Object.keys(indexKinds) as IndexKindName[]).flatMap((kind) => {
    const { access } = kindOf({ kind });
    return access.by === 'positions' ? access.candidates(asked).map((keys) => readDefinition({ keys, kind })) : [];
  });
}
