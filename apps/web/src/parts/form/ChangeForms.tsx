import Box from '@mui/material/Box';
import {
  parseValueText,
  printExpression,
  type AppendStep,
  type CheckedStage,
  type ReplaceStep,
  type SetStep,
  type TakeStep,
} from '@zesty-sieve/core/language';
import { useMemo } from 'react';
import { codeFont } from '../../app/theme.ts';
import { shortText, valueAt } from '../documents/columns.ts';
import { offeredFields } from './fields.ts';
import { FunctionHelp } from './FunctionHelp.tsx';
import { AddButton, frame, RemoveButton, Typed, Word } from './parts.tsx';
import { useSample } from './useSample.ts';
import { useWrittenText } from './writtenText.ts';

const isValue = (text: string): boolean => 'expression' in parseValueText(text);
const isPath = (text: string): boolean => {
  const read = parseValueText(text);
  return 'expression' in read && read.expression.kind === 'path' && read.expression.segments.length > 0;
};

function FieldList({ checked }: { checked: CheckedStage }) {
  const fields = useMemo(() => offeredFields(checked.before), [checked.before]);
  return (
    <datalist id="changed-fields">
      {fields.map(({ path }) => (
        <option key={path} value={path} />
      ))}
    </datalist>
  );
}

/** Fields and what is put into them, each with what the first document gets. */
export function SetForm({ checked, step, onText }: { checked: CheckedStage; step: SetStep; onText: (text: string) => void }) {
  const { text } = useWrittenText();
  const rows = step.items.map(({ target, expression }) => ({ path: printExpression(target), text: printExpression(expression) }));
  const computed = rows.map((row, i) => `v${i} = ${row.text}`).join(', ');
  const [first] = useSample(`${text.slice(0, checked.placed.from).trimEnd()}\nlimit 1\ncompute ${computed}`, 1) ?? [];
  const write = (next: readonly { path: string; text: string }[]) =>
    next.length > 0 && onText(`set ${next.map(({ path, text: value }) => `${path} = ${value}`).join(', ')}`);
  return (
    <Box sx={frame}>
      <Word word="set">puts these values, made from the document as it was</Word>
      {rows.map((row, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 0.75 }}>
          <Typed
            label="Field"
            value={row.path}
            list="changed-fields"
            isSound={isPath}
            onChange={(path) => write(rows.map((old, k) => (k === i ? { ...old, path } : old)))}
          />
          =
          <Typed
            label="Value"
            value={row.text}
            isSound={isValue}
            onChange={(value) => write(rows.map((old, k) => (k === i ? { ...old, text: value } : old)))}
          />
          <Box
            sx={{ width: 120, fontFamily: codeFont, fontSize: 12, color: 'text.secondary', overflow: 'hidden', textOverflow: 'ellipsis' }}
            title="In the first document"
          >
            {first === undefined ? '' : shortText(valueAt(first, [`v${i}`])) || 'nothing'}
          </Box>
          {rows.length > 1 && <RemoveButton label="Remove the field" onClick={() => write(rows.filter((_, k) => k !== i))} />}
        </Box>
      ))}
      <FieldList checked={checked} />
      <AddButton onClick={() => write([...rows, { path: '@.newField', text: '1' }])}>+ field</AddButton>
      <FunctionHelp />
    </Box>
  );
}

export function ElementForm({
  checked,
  step,
  onText,
}: {
  checked: CheckedStage;
  step: AppendStep | TakeStep;
  onText: (text: string) => void;
}) {
  const value = printExpression(step.expression);
  const path = printExpression(step.target);
  const joint = step.kind === 'append' ? 'to' : 'from';
  return (
    <Box sx={frame}>
      <Word word={step.kind}>
        {step.kind === 'append' ? 'puts an element at the end of an array' : 'takes all equal elements out of an array'}
      </Word>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <Typed label="Element" value={value} isSound={isValue} onChange={(next) => onText(`${step.kind} ${next} ${joint} ${path}`)} />
        {joint}
        <Typed
          label="Array"
          value={path}
          list="changed-fields"
          isSound={isPath}
          onChange={(next) => onText(`${step.kind} ${value} ${joint} ${next}`)}
        />
      </Box>
      <FieldList checked={checked} />
    </Box>
  );
}

export function ReplaceForm({ step, onText }: { step: ReplaceStep; onText: (text: string) => void }) {
  return (
    <Box sx={frame}>
      <Word word="replace with">the whole document; its identity stays</Word>
      <Typed
        label="Document"
        value={printExpression(step.expression)}
        isSound={isValue}
        onChange={(next) => onText(`replace with ${next}`)}
      />
      <FunctionHelp />
    </Box>
  );
}
