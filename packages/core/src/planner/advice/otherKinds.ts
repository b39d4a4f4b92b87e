import { readDefinition, type IndexDefinition, type IndexKindName } from '../../indexes/definition.ts';
import { indexKinds, kindOf } from '../../indexes/kinds.ts';
import { isConstant } from '../../language/constant.ts';
import type { Expression } from '../../language/tree.ts';
import type { Constant } from '../paths/keyConditions.ts';
import type { AccessQuestion } from '../paths/path.ts';
import { askedOf } from '../paths/positions.ts';

/** Indexes of kinds that answer with positions which the conditions of a question would have a use for. */
export function candidatesOfOtherKinds({ conjuncts }: AccessQuestion, valueOf: Constant): IndexDefinition[] {
  const asked = askedOf(conjuncts, valueOf);
  return (Object.keys(indexKinds) as IndexKindName[]).flatMap((kind) => {
    const { access } = kindOf({ kind });
    return access.by === 'positions' ? access.candidates(asked).map((candidate) => readDefinition({ ...candidate, kind })) : [];
  });
}

/** Indexes that would know what an expression scores. */
export function candidatesOfScore(expression: Expression): IndexDefinition[] {
  return (Object.keys(indexKinds) as IndexKindName[]).flatMap((kind) => {
    const { access } = kindOf({ kind });
    const candidate = access.by === 'positions' ? access.scoring?.candidate(expression, isConstant) : undefined;
    return candidate === undefined ? [] : [readDefinition({ ...candidate, kind })];
  });
}
