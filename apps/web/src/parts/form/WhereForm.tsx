import Box from '@mui/material/Box';
import {
  canonicalCondition,
  conditionForm,
  conditionText,
  moveCondition,
  printExpression,
  type ConditionForm,
  type WhereStage,
} from '@zesty-sieve/core/language';
import { useEffect, useMemo, useState } from 'react';
import { count, percent } from '../numbers.ts';
import { ConditionGroup } from './ConditionRows.tsx';
import { DragArea } from './dragging.tsx';
import { offeredFields } from './fields.ts';
import { frame } from './parts.tsx';
import type { StageFormProps } from './stageFormProps.ts';
import { useCounts } from './useCounts.ts';
import { useWrittenText } from './writtenText.ts';

export function WhereForm({
  checked,
  stage,
  onText,
  onTrace,
}: Pick<StageFormProps, 'checked' | 'onText' | 'onTrace'> & { stage: WhereStage }) {
  const text = printExpression(stage.condition);
  const [form, setForm] = useState<ConditionForm & { kind: 'group' }>(() => conditionForm(stage.condition));
  useEffect(() => {
    // The form follows the text, unless the text is what the form has just written.
    setForm((now) => (canonicalCondition(now) === text ? now : conditionForm(stage.condition)));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the stage is made anew with every text
  }, [text]);
  const fields = useMemo(() => offeredFields(checked.before), [checked.before]);
  const before = useWrittenText().text.slice(0, checked.placed.from);
  const { alone, reaching, together } = useCounts(checked.placed.line, form);
  const change = (next: ConditionForm) => {
    const group = next.kind === 'group' ? next : ({ kind: 'group', mode: 'all', items: [next] } as const);
    setForm(group);
    const written = canonicalCondition(group);
    if (written !== undefined && written !== text && isComplete(group)) onText(`where ${written}`);
  };
  return (
    <Box sx={frame}>
      <Box sx={{ display: 'flex' }}>
        <Box component="code" sx={{ color: 'secondary.main', fontWeight: 700, pr: 0.75, pt: '1px' }}>
          where
        </Box>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <DragArea onMove={(from, group, at) => change(moveCondition(form, from, group, at))}>
            <ConditionGroup
              lead="keeps a row when"
              form={form}
              place={[]}
              onChange={change}
              fields={fields}
              counts={alone}
              reaching={reaching}
              before={before}
            />
          </DragArea>
        </Box>
      </Box>
      {/* At the two ends: the counts come later, and must not move what one is about to press. */}
      <Box sx={{ fontSize: 12.5, color: 'text.secondary', pt: 1, display: 'flex', flexWrap: 'wrap', columnGap: 2 }}>
        {together !== undefined && reaching !== undefined && (
          <span>
            together <b>{count(together)}</b> of {count(reaching)} · {percent(together / Math.max(1, reaching))}
          </span>
        )}
        {onTrace && (
          <Box component="span" sx={{ ml: 'auto' }}>
            a document missing from the result?{' '}
            <Box
              component="button"
              type="button"
              onClick={onTrace}
              sx={{
                all: 'unset',
                cursor: 'pointer',
                textDecoration: 'underline',
                color: 'text.primary',
                '&:focus-visible': { outline: 'auto' },
              }}
            >
              Trace it
            </Box>
          </Box>
        )}
      </Box>
    </Box>
  );
}

/** Rows that are begun and not filled in do not write to the text yet. */
function isComplete(form: ConditionForm): boolean {
  if (form.kind === 'group') return form.items.every(isComplete);
  return form.kind === 'text' || conditionText(form) !== undefined;
}
