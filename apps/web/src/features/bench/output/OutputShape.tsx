import Box from '@mui/material/Box';
import { pathText, surveyFields, type FieldStep, type JsonObject } from '@zesty-sieve/core/language';
import { useMemo } from 'react';
import { FieldHeads, FieldRow } from '../../../parts/FieldRows.tsx';
import { count } from '../../../parts/numbers.ts';
import { marks, useFieldMark } from './lineChanges.ts';

/** What the rows that have come are like; said to be so many of all, where they are not all. */
export function OutputShape({ rows, of }: { rows: readonly unknown[]; of: number }) {
  const fields = useMemo(() => surveyFields(rows as readonly JsonObject[]), [rows]);
  const markOf = useFieldMark();
  return (
    <Box
      role="table"
      aria-label="Shape of the output"
      tabIndex={0}
      sx={{ flex: 1, minHeight: 0, overflow: 'auto', bgcolor: 'background.paper' }}
    >
      {rows.length < of && (
        <Box sx={{ px: 2.5, py: 0.75, fontSize: 12, color: 'secondary.main' }}>
          of the first {count(rows.length)} of {count(of)} rows
        </Box>
      )}
      <FieldHeads />
      {fields.map(({ steps, info }) => {
        const path = pathOf(steps);
        const mark = markOf(steps.map((step) => ('field' in step ? step.field : 0)));
        return <FieldRow key={path} field={{ path, ...info, top: [...info.top] }} mark={mark && marks[mark]} />;
      })}
    </Box>
  );
}

function pathOf(steps: readonly FieldStep[]): string {
  return steps.reduce((path, step) => ('field' in step ? pathText([step.field], path) : `${path}[*]`), '@');
}
