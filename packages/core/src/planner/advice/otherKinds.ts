import { readDefinition, type IndexDefinition, type IndexKindName } from '../../indexes/definition.ts';
import { indexKinds, kindOf } from '../../indexes/kinds.ts';
import type { Constant } from '../paths/keyConditions.ts';
import type { AccessQuestion } from '../paths/path.ts';
import { askedOf } from '../paths/positions.ts';

/** Indexes of kinds that answer with positions which the conditions of a question would have a use for. */
export function candidatesOfOtherKinds({ conjuncts }: AccessQuestion, valueOf: Constant): IndexDefinition[] {
  const asked = askedOf(conjuncts, valueOf);
  return (Object.keys(indexKinds) as IndexKindName[]).flatMap((kind) => {
    const { access } = kindOf({ kind });
    return access.by === 'positions' ? access.candidates(asked).map((keys) => readDefinition({ keys, kind })) : [];
  });
}
