import type { EditorView } from '@codemirror/view';
import type { CheckedPipeline } from '@zesty-sieve/core/language';
import { useSnackbar } from 'notistack';
import { memo, type RefObject } from 'react';
import type { useStageText } from '../../parts/asking/useStageText.ts';
import { StageArea } from '../../parts/form/StageArea.tsx';
import { firstStart, stageStarts } from '../../parts/form/stageStarts.ts';
import { PullOut } from './PullOut.tsx';

/** How a form writes into the text. */
export type StageWriting = ReturnType<typeof useStageText>;

interface FormPaneProps {
  readonly checked: CheckedPipeline;
  readonly cursorLine: number;
  readonly writing: StageWriting;
  readonly editor: RefObject<EditorView | null>;
  readonly onTrace: () => void;
}

/** The form of the stage at the cursor. What it writes goes into the text as it stands by then. */
export const FormPane = memo(function FormPane({ checked, cursorLine, writing, editor, onTrace }: FormPaneProps) {
  const { enqueueSnackbar } = useSnackbar();
  const stageHere = checked.stages.findLast(({ placed }) => placed.line <= cursorLine);
  const nextStage = stageHere && checked.stages[checked.stages.indexOf(stageHere) + 1];
  return (
    <StageArea
      label="Form of the stage"
      checked={stageHere}
      next={nextStage}
      starts={checked.source === undefined ? [firstStart] : stageStarts}
      onText={writing.writeStage}
      onNext={writing.writeNext}
      onAdd={writing.addStage}
      onTrace={onTrace}
    >
      {stageHere && stageHere.placed.line > (checked.stages[0]?.placed.line ?? 1) && (
        <PullOut
          lines={`lines 1 to ${stageHere.placed.line}`}
          text={checked.pipeline.text.slice(0, stageHere.placed.to)}
          onDone={(name) => {
            editor.current?.dispatch({
              changes: { from: 0, to: stageHere.placed.to, insert: `from ${name}` },
              selection: { anchor: `from ${name}`.length },
              userEvent: 'input.form',
            });
            enqueueSnackbar(`${name} is a view now, and this pipeline reads it.`);
          }}
        />
      )}
    </StageArea>
  );
});
