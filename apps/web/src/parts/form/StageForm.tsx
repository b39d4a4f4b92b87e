import type { StageFormProps } from './stageFormProps.ts';
import { definitionOf, printExpression, stageWords } from '@zesty-sieve/core/language';
import { ElementForm, ReplaceForm, SetForm } from './ChangeForms.tsx';
import { BestForm } from './BestForm.tsx';
import { ComputeForm } from './ComputeForm.tsx';
import { GroupForm } from './GroupForm.tsx';
import { JoinForm } from './JoinForm.tsx';
import { RankForm } from './RankForm.tsx';
import { UnnestForm } from './UnnestForm.tsx';
import { FieldsForm } from './FieldsForm.tsx';
import { OrderForm } from './OrderForm.tsx';
import { Hint } from './parts.tsx';
import { CountForm, FromForm } from './SourceForms.tsx';
import { WhereForm } from './WhereForm.tsx';

/** The form of the stage at the cursor: another face of its text. */
export function StageForm({ checked, next, onText, onNext, onTrace }: StageFormProps) {
  const { stage } = checked.placed;
  if (stage === undefined) return <Hint>This line cannot be read yet. Its form comes back when it can.</Hint>;
  switch (stage.kind) {
    case 'where':
      return <WhereForm checked={checked} stage={stage} onText={onText} onTrace={onTrace} />;
    case 'order':
      return <OrderForm checked={checked} keys={stage.keys} onText={onText} />;
    case 'select':
    case 'omit':
      return <FieldsForm checked={checked} stage={stage} onText={onText} />;
    case 'compute':
      return <ComputeForm checked={checked} stage={stage} onText={onText} />;
    case 'unnest':
      return <UnnestForm checked={checked} stage={stage} onText={onText} />;
    case 'join':
    case 'leftJoin':
    case 'gatherJoin':
      return <JoinForm key={stage.source} checked={checked} stage={stage} next={next} onText={onText} onNext={onNext} />;
    case 'group':
    case 'groupAll':
      return <GroupForm checked={checked} stage={stage} onText={onText} />;
    case 'rank':
    case 'denseRank':
    case 'rowNumber':
      return <RankForm checked={checked} stage={stage} onText={onText} />;
    case 'best':
      return <BestForm checked={checked} stage={stage} onText={onText} />;
    case 'set':
      return <SetForm checked={checked} step={stage} onText={onText} />;
    case 'remove':
      return <FieldsForm checked={checked} stage={stage} onText={onText} />;
    case 'append':
    case 'take':
      return <ElementForm checked={checked} step={stage} onText={onText} />;
    case 'replace':
      return <ReplaceForm step={stage} onText={onText} />;
    case 'delete':
      return <Hint>Each document that the lines above keep is taken out of the collection.</Hint>;
    case 'from':
      return <FromForm source={stage.source} onText={onText} />;
    case 'offset':
    case 'limit':
    case 'sample':
      return (
        <CountForm
          word={stageWords(stage.kind)}
          text={printExpression(stage.count)}
          doc={definitionOf(stage.kind).doc}
          onText={(next) =>
            onText(`${stage.kind} ${next}${stage.kind === 'sample' && stage.seed ? ` seed ${printExpression(stage.seed)}` : ''}`)
          }
        />
      );
  }
}
