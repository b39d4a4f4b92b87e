import Box from '@mui/material/Box';
import {
  parseValueText,
  readAssignments,
  writeAssignments,
  type AssignmentRow,
  type CheckedStage,
  type ComputeStage,
} from '@zesty-sieve/core/language';
import { codeFont } from '../../app/theme.ts';
import { shortText, valueAt } from '../documents/columns.ts';
import { FunctionHelp } from './FunctionHelp.tsx';
import { AddButton, frame, RemoveButton, Typed, Word } from './parts.tsx';
import { useSample } from './useSample.ts';
import { useWrittenText } from './writtenText.ts';

export const isGivenName = (name: string): boolean => /^[\p{L}_][\p{L}\p{N}_]*(\.[\p{L}_][\p{L}\p{N}_]*)*$|^".*"$/u.test(name);

/** Fields and the expressions that make them, each with the value that it has in the first row. */
export function ComputeForm({ checked, stage, onText }: { checked: CheckedStage; stage: ComputeStage; onText: (text: string) => void }) {
  const before = useWrittenText().text.slice(0, checked.placed.from);
  const rows = readAssignments(stage);
  const written = writeAssignments(rows);
  const [first] = useSample(checked.placed.off || written === undefined ? undefined : `${before}limit 1\n${written}`, 1) ?? [];
  const write = (next: readonly AssignmentRow[]) => {
    const text = writeAssignments(next);
    if (text !== undefined) onText(text);
  };
  const isValue = (text: string) => 'expression' in parseValueText(text);
  return (
    <Box sx={frame}>
      <Word word="compute">adds these fields, from left to right</Word>
      {rows.map((row, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 0.75 }}>
          <Box sx={{ width: 130, display: 'flex' }}>
            <Typed
              label="Name"
              value={row.name}
              isSound={isGivenName}
              onChange={(name) => write(rows.map((old, k) => (k === i ? { ...old, name } : old)))}
            />
          </Box>
          =
          <Typed
            label="Value"
            value={row.text}
            isSound={isValue}
            onChange={(text) => write(rows.map((old, k) => (k === i ? { ...old, text } : old)))}
          />
          <Example row={first} target={stage.assignments[i]!.target} />
          {rows.length > 1 && <RemoveButton label="Remove the field" onClick={() => write(rows.filter((_, k) => k !== i))} />}
        </Box>
      ))}
      <AddButton onClick={() => write([...rows, { name: `field${rows.length + 1}`, text: '1' }])}>+ field</AddButton>
      <FunctionHelp />
    </Box>
  );
}

function Example({ row, target }: { row: unknown; target: readonly string[] }) {
  const value = valueAt(row, target);
  return (
    <Box
      aria-label="In the first row"
      title="Its value in the first row"
      sx={{
        width: 130,
        fontFamily: codeFont,
        fontSize: 12,
        color: 'text.secondary',
        overflow: 'hidden',
        textOverflow: 'ellipsis',
        whiteSpace: 'nowrap',
      }}
    >
      {row === undefined ? '' : value === undefined ? 'nothing' : shortText(value)}
    </Box>
  );
}
