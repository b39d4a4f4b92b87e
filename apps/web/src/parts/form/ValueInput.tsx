import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { conditionTests, parseConditionText, splitPair, type ConditionForm, type ConditionTest } from '@zesty-sieve/core/language';
import { useEffect, useState } from 'react';
import { count } from '../numbers.ts';
import { DateInput } from './DateInput.tsx';
import { dateForm, kindsOf, shownValue, valueExpression, type OfferedField } from './fields.ts';
import { codeInput, Typed } from './parts.tsx';
import { PatternInput } from './PatternInput.tsx';

type Test = ConditionForm & { kind: 'test' };

interface ValueProps {
  readonly form: Test;
  readonly field: OfferedField | undefined;
  readonly onChange: (form: ConditionForm) => void;
  /** The pipeline up to this stage. */
  readonly before: string;
}

/** The value of a test, edited as fits the field's types and the test. */
export function ValueInput({ form, field, onChange, before }: ValueProps) {
  const kinds = kindsOf(field?.info);
  // The elements of an array are of other types than the array.
  const valueKinds = kinds.filter((kind) => kind !== 'array');
  const { takes } = conditionTests[form.test] as ConditionTest;
  if (takes === 'none') return <span />;
  if (takes === 'two') {
    const [low, high] = splitPair(form.value);
    const write = (a: string, b: string) => onChange({ ...form, value: `[${a}, ${b}]` });
    const ranged = dateForm(field?.info);
    if (ranged !== undefined) {
      return (
        <Box sx={{ display: 'flex', gap: 0.5 }}>
          <DateInput label="From" value={low} dated={ranged} onChange={(next) => write(next, high)} />
          <DateInput label="To" value={high} dated={ranged} onChange={(next) => write(low, next)} />
        </Box>
      );
    }
    return (
      <Box sx={{ display: 'flex', gap: 0.5 }}>
        <PlainValue label="From" value={low} kinds={valueKinds} onChange={(next) => write(next, high)} />
        <PlainValue label="To" value={high} kinds={valueKinds} onChange={(next) => write(low, next)} />
      </Box>
    );
  }
  if (takes === 'list') {
    const items = listItems(form.value);
    return (
      <Autocomplete
        multiple
        freeSolo
        size="small"
        options={(field?.info?.top ?? []).map(({ value }) => String(value))}
        value={items}
        onChange={(_event, next) => onChange({ ...form, value: `[${next.map((item) => valueExpression(item, valueKinds)).join(', ')}]` })}
        renderInput={(parameters) => (
          <TextField
            {...parameters}
            placeholder="values"
            sx={codeInput}
            slotProps={{ ...parameters.slotProps, htmlInput: { ...parameters.slotProps.htmlInput, 'aria-label': 'Values' } }}
          />
        )}
      />
    );
  }
  if (takes === 'condition')
    return (
      <Typed
        label="Condition on an element"
        value={form.value}
        isSound={(text) => text.trim() !== '' && 'expression' in parseConditionText(text)}
        onChange={(value) => onChange({ ...form, value })}
      />
    );
  if (form.test === 'matches') return <PatternInput form={form} onChange={onChange} before={before} />;
  const dated = dateForm(field?.info);
  if (dated !== undefined) return <DateInput value={form.value} dated={dated} onChange={(value) => onChange({ ...form, value })} />;
  const top = field?.info?.top ?? [];
  return (
    <Autocomplete
      freeSolo
      disableClearable
      options={kinds.length === 1 && kinds[0] === 'boolean' ? ['true', 'false'] : top.map(({ value }) => String(value))}
      value={shownValue(form.value)}
      onChange={(_event, next) => onChange({ ...form, value: valueExpression(next, valueKinds) })}
      onBlur={(event) => {
        const next = (event.target as HTMLInputElement).value;
        if (next !== shownValue(form.value)) onChange({ ...form, value: valueExpression(next, valueKinds) });
      }}
      renderOption={({ key, ...props }, option) => {
        const known = top.find(({ value }) => String(value) === option);
        return (
          <Box
            component="li"
            key={key}
            {...props}
            sx={{ display: 'flex', justifyContent: 'space-between !important', gap: 2, fontSize: 12.5 }}
          >
            <span>{option}</span>
            {known && <Box component="span" sx={{ color: 'text.secondary' }}>{count(known.count)}</Box> /* prettier-ignore */}
          </Box>
        );
      }}
      renderInput={(parameters) => (
        <TextField
          {...parameters}
          placeholder="value"
          sx={codeInput}
          slotProps={{ ...parameters.slotProps, htmlInput: { ...parameters.slotProps.htmlInput, 'aria-label': 'Value' } }}
        />
      )}
    />
  );
}

function listItems(value: string): string[] {
  try {
    return (JSON.parse(value) as unknown[]).map((item) => (typeof item === 'string' ? item : JSON.stringify(item)));
  } catch {
    return value.startsWith('[') ? [] : [value];
  }
}

function PlainValue({
  label,
  value,
  kinds,
  onChange,
}: {
  label: string;
  value: string;
  kinds: ReturnType<typeof kindsOf>;
  onChange: (expression: string) => void;
}) {
  const [typed, setTyped] = useState(shownValue(value === 'null' ? '' : value));
  useEffect(() => setTyped(shownValue(value === 'null' ? '' : value)), [value]);
  return (
    <TextField
      value={typed}
      placeholder={label.toLowerCase()}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => onChange(valueExpression(typed, kinds))}
      sx={codeInput}
      slotProps={{ htmlInput: { 'aria-label': label } }}
    />
  );
}
