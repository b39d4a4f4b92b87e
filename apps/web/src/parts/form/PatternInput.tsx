import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { canonicalCondition, type ConditionForm } from '@zesty-sieve/core/language';
import { useEffect, useState } from 'react';
import { codeFont } from '../../app/theme.ts';
import { shownValue, valueExpression } from './fields.ts';
import { codeInput } from './parts.tsx';
import { useSample } from './useSample.ts';

type Test = ConditionForm & { kind: 'test' };

/** A pattern (I-Regexp, RFC 9485) with values of the field that it fits, as it is typed. */
export function PatternInput({ form, onChange, before }: { form: Test; onChange: (form: ConditionForm) => void; before: string }) {
  const shown = shownValue(form.value);
  const [typed, setTyped] = useState(shown);
  useEffect(() => setTyped(shown), [shown]);
  const tried: Test = { ...form, value: valueExpression(typed, ['text']) };
  const condition = form.field === '' ? undefined : canonicalCondition(tried);
  const rows = useSample(condition === undefined ? undefined : `${before}where ${condition}\nselect ${form.field} as fits\nlimit 3`, 3);
  const write = () => typed !== shown && condition !== undefined && onChange(tried);
  const examples = rows?.map((row) => String((row as { fits?: unknown }).fits));
  return (
    <Box sx={{ minWidth: 0 }}>
      <TextField
        value={typed}
        fullWidth
        placeholder="Ma.*"
        error={condition === undefined && form.field !== ''}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={write}
        onKeyDown={(event) => event.key === 'Enter' && write()}
        sx={codeInput}
        slotProps={{ htmlInput: { 'aria-label': 'Pattern' } }}
      />
      {examples !== undefined && (
        <Box
          aria-label="Values that it fits"
          sx={{
            fontSize: 11,
            color: 'text.secondary',
            fontFamily: codeFont,
            overflow: 'hidden',
            textOverflow: 'ellipsis',
            whiteSpace: 'nowrap',
            pt: 0.25,
          }}
        >
          {examples.length === 0 ? 'fits none of the first read' : `fits ${examples.join(', ')}`}
        </Box>
      )}
    </Box>
  );
}
