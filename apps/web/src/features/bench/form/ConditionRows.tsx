import CloseIcon from '@mui/icons-material/Close';
import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import TextField from '@mui/material/TextField';
import {
  canonicalCondition,
  conditionTests,
  splitPair,
  type ConditionForm,
  type ConditionTest,
  type ConditionTestName,
  type GroupMode,
} from '@zesty-sieve/core/language';
import { useEffect, useState } from 'react';
import { codeFont } from '../../../app/theme.ts';
import { count, percent } from '../../../parts/numbers.ts';
import { kindsOf, shownValue, valueExpression, type OfferedField } from './fields.ts';

const modes: readonly (readonly [GroupMode, string])[] = [
  ['all', 'all of these hold'],
  ['any', 'any of these holds'],
  ['none', 'none of these holds'],
];
const testNames = Object.keys(conditionTests) as ConditionTestName[];

interface Shared {
  readonly fields: readonly OfferedField[];
  /** How many rows each condition keeps alone, by its text; and how many reach the line. */
  readonly counts: ReadonlyMap<string, number | null>;
  readonly reaching: number | undefined;
}

interface NodeProps<F extends ConditionForm> extends Shared {
  readonly form: F;
  readonly onChange: (form: ConditionForm) => void;
  readonly onRemove?: () => void;
}

type Group = ConditionForm & { kind: 'group' };
type Test = ConditionForm & { kind: 'test' };
type Text = ConditionForm & { kind: 'text' };

/** A group of conditions, nested to any depth. */
export function ConditionGroup({ form, onChange, onRemove, lead, ...shared }: NodeProps<Group> & { lead?: string }) {
  const replace = (at: number, item: ConditionForm | undefined) =>
    onChange({ ...form, items: form.items.flatMap((old, i) => (i === at ? (item === undefined ? [] : [item]) : [old])) });
  const add = (item: ConditionForm) => onChange({ ...form, items: [...form.items, item] });
  return (
    <Box sx={lead === undefined ? { borderLeft: '2px solid', borderColor: (t) => t.roles.flow, pl: 1.25, my: 0.5 } : {}}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75, fontSize: 13, pb: 0.75 }}>
        {lead !== undefined && <b>{lead}</b>}
        <Select
          variant="standard"
          value={form.mode}
          onChange={(event) => onChange({ ...form, mode: event.target.value as GroupMode })}
          inputProps={{ 'aria-label': 'How the conditions are joined' }}
          sx={{ fontSize: 13, fontWeight: 650 }}
        >
          {modes.map(([mode, label]) => (
            <MenuItem key={mode} value={mode}>
              {label}
            </MenuItem>
          ))}
        </Select>
        {onRemove && <RemoveButton label="Remove the group" onClick={onRemove} />}
      </Box>
      {form.items.map((item, i) => {
        const props = { ...shared, onChange: (next: ConditionForm) => replace(i, next), onRemove: () => replace(i, undefined) };
        if (item.kind === 'group') return <ConditionGroup key={i} form={item} {...props} />;
        return item.kind === 'test' ? <TestRow key={i} form={item} {...props} /> : <TextRow key={i} form={item} {...props} />;
      })}
      <Box sx={{ display: 'flex', gap: 0.5 }}>
        <AddButton onClick={() => add({ kind: 'test', field: '', test: 'is', value: '' })}>+ condition</AddButton>
        <AddButton onClick={() => add({ kind: 'group', mode: 'any', items: [{ kind: 'test', field: '', test: 'is', value: '' }] })}>
          + group (any of)
        </AddButton>
        <AddButton onClick={() => add({ kind: 'group', mode: 'none', items: [{ kind: 'test', field: '', test: 'is', value: '' }] })}>
          + none of
        </AddButton>
      </Box>
    </Box>
  );
}

export function AddButton({ children, onClick }: { children: string; onClick: () => void }) {
  return (
    <Button size="small" onClick={onClick} sx={{ fontSize: 12, fontWeight: 450, color: 'text.secondary', px: 1, py: 0 }}>
      {children}
    </Button>
  );
}

export function RemoveButton({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <IconButton size="small" aria-label={label} title={label} onClick={onClick} sx={{ p: 0.25 }}>
      <CloseIcon sx={{ fontSize: 15 }} />
    </IconButton>
  );
}

const rowStyle = {
  display: 'grid',
  gridTemplateColumns: 'minmax(120px, 1.3fr) minmax(104px, 0.9fr) minmax(110px, 1.2fr) 140px 22px',
  gap: 0.9,
  alignItems: 'center',
  pb: 0.75,
} as const;
const inputStyle = {
  '& .MuiInputBase-root': { fontFamily: codeFont, fontSize: 12, bgcolor: 'background.paper', py: '1px !important' },
  '& .MuiInputBase-input': { py: '5px !important' },
} as const;

function TestRow({ form, onChange, onRemove, fields, counts, reaching }: NodeProps<Test>) {
  const field = fields.find(({ path }) => path === form.field);
  const kinds = kindsOf(field?.info);
  const { takes } = conditionTests[form.test] as ConditionTest;
  const fitting = testNames.filter(
    (name) => name === form.test || kinds.length === 0 || conditionTests[name].types.some((kind) => kinds.includes(kind)),
  );
  const pickTest = (test: ConditionTestName) => {
    const next = (conditionTests[test] as ConditionTest).takes;
    onChange({
      ...form,
      test,
      value:
        next === 'none'
          ? ''
          : next === 'value'
            ? takes === 'value'
              ? form.value
              : ''
            : form.value.startsWith('[')
              ? form.value
              : `[${form.value}]`,
    });
  };
  return (
    <Box sx={rowStyle}>
      <Autocomplete
        freeSolo
        disableClearable
        options={fields.map(({ path }) => path)}
        value={form.field}
        onChange={(_event, path) => onChange({ ...form, field: path })}
        onBlur={(event) => {
          const typed = (event.target as HTMLInputElement).value.trim();
          if (typed !== form.field) onChange({ ...form, field: typed === '' || /^[@$]/.test(typed) ? typed : `@.${typed}` });
        }}
        renderInput={(parameters) => (
          <TextField
            {...parameters}
            placeholder="field"
            sx={inputStyle}
            slotProps={{ ...parameters.slotProps, htmlInput: { ...parameters.slotProps.htmlInput, 'aria-label': 'Field' } }}
          />
        )}
      />
      <Select
        value={form.test}
        onChange={(event) => pickTest(event.target.value as ConditionTestName)}
        inputProps={{ 'aria-label': 'Test' }}
        sx={{ fontSize: 12.5, bgcolor: 'background.paper', '& .MuiSelect-select': { py: '5px' } }}
        size="small"
      >
        {fitting.map((name) => (
          <MenuItem key={name} value={name}>
            {conditionTests[name].label}
          </MenuItem>
        ))}
      </Select>
      <ValueInput key={takes} form={form} field={field} onChange={onChange} />
      <Alone form={form} counts={counts} reaching={reaching} />
      {onRemove && <RemoveButton label="Remove the condition" onClick={onRemove} />}
    </Box>
  );
}

function ValueInput({ form, field, onChange }: { form: Test; field: OfferedField | undefined; onChange: (form: ConditionForm) => void }) {
  const kinds = kindsOf(field?.info);
  // The elements of an array are of other types than the array.
  const valueKinds = kinds.filter((kind) => kind !== 'array');
  const { takes } = conditionTests[form.test] as ConditionTest;
  if (takes === 'none') return <span />;
  if (takes === 'two') {
    const [low, high] = splitPair(form.value);
    const write = (a: string, b: string) => onChange({ ...form, value: `[${a}, ${b}]` });
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
            sx={inputStyle}
            slotProps={{ ...parameters.slotProps, htmlInput: { ...parameters.slotProps.htmlInput, 'aria-label': 'Values' } }}
          />
        )}
      />
    );
  }
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
          sx={inputStyle}
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
      sx={inputStyle}
      slotProps={{ htmlInput: { 'aria-label': label } }}
    />
  );
}

/** How many of the rows that reach this line the condition keeps by itself. */
function Alone({ form, counts, reaching }: { form: ConditionForm } & Omit<Shared, 'fields'>) {
  const text = canonicalCondition(form);
  const alone = text === undefined ? undefined : counts.get(text);
  if (alone === undefined || alone === null || reaching === undefined)
    return (
      <Box sx={{ fontSize: 12, color: 'text.secondary' }}>
        {text === undefined && form.kind === 'test' && form.field !== '' ? 'not complete' : ''}
      </Box>
    );
  return (
    <Box
      sx={{ display: 'flex', alignItems: 'center', gap: 0.75, fontSize: 12, color: 'text.secondary', whiteSpace: 'nowrap' }}
      title={`${percent(alone / Math.max(1, reaching))} of ${count(reaching)}`}
    >
      <Box sx={{ width: 44, height: 6, borderRadius: 1, bgcolor: (t) => t.roles.flowSoft, flex: 'none' }}>
        <Box
          sx={{
            width: `${(alone / Math.max(1, reaching)) * 100}%`,
            minWidth: alone > 0 ? 2 : 0,
            height: '100%',
            borderRadius: 1,
            bgcolor: (t) => t.roles.flow,
          }}
        />
      </Box>
      {count(alone)} alone
    </Box>
  );
}

function TextRow({ form, onChange, onRemove, counts, reaching }: NodeProps<Text>) {
  const [typed, setTyped] = useState(form.text);
  useEffect(() => setTyped(form.text), [form.text]);
  const unsound = canonicalCondition({ kind: 'text', text: typed }) === undefined;
  return (
    <Box sx={{ ...rowStyle, gridTemplateColumns: 'minmax(0, 1fr) 140px 22px' }}>
      <TextField
        value={typed}
        error={unsound}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => !unsound && typed !== form.text && onChange({ kind: 'text', text: typed })}
        sx={inputStyle}
        slotProps={{ htmlInput: { 'aria-label': 'Condition' } }}
      />
      <Alone form={form} counts={counts} reaching={reaching} />
      {onRemove && <RemoveButton label="Remove the condition" onClick={onRemove} />}
    </Box>
  );
}
