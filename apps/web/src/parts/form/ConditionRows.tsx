import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import TextField from '@mui/material/TextField';
import {
  canonicalCondition,
  conditionTests,
  type ConditionForm,
  type ConditionTest,
  type ConditionTestName,
  type FormPlace,
  type GroupMode,
} from '@zesty-sieve/core/language';
import { Fragment, useEffect, useState } from 'react';
import { count, percent } from '../numbers.ts';
import { DropGap, Movable } from './dragging.tsx';
import { kindsOf, type OfferedField } from './fields.ts';
import { AddButton, codeInput, RemoveButton } from './parts.tsx';
import { ValueInput } from './ValueInput.tsx';

const modes: readonly (readonly [GroupMode, string])[] = [
  ['all', 'all of these hold'],
  ['any', 'any of these holds'],
  ['none', 'none of these holds'],
];
const testNames = Object.keys(conditionTests) as ConditionTestName[];

interface Shared {
  /** The pipeline up to this stage, for examples of what a value would keep. */
  readonly before: string;
  readonly fields: readonly OfferedField[];
  /** How many rows each condition keeps alone, by its text; and how many reach the line. */
  readonly counts: ReadonlyMap<string, number | null>;
  readonly reaching: number | undefined;
}

interface NodeProps<F extends ConditionForm> extends Shared {
  readonly form: F;
  readonly onChange: (form: ConditionForm) => void;
  readonly onRemove?: () => void;
  /** Where it stands in the whole form. */
  readonly place: FormPlace;
}

type Group = ConditionForm & { kind: 'group' };
type Test = ConditionForm & { kind: 'test' };
type Text = ConditionForm & { kind: 'text' };

/** A group of conditions, nested to any depth. Its rows can be dragged to another place, in it or in another group. */
export function ConditionGroup({ form, place, onChange, onRemove, lead, ...shared }: NodeProps<Group> & { lead?: string }) {
  const replace = (at: number, item: ConditionForm | undefined) =>
    onChange({ ...form, items: form.items.flatMap((old, i) => (i === at ? (item === undefined ? [] : [item]) : [old])) });
  const add = (item: ConditionForm) => onChange({ ...form, items: [...form.items, item] });
  return (
    <Box
      role="group"
      aria-label={modes.find(([mode]) => mode === form.mode)?.[1]}
      sx={lead === undefined ? { borderLeft: '2px solid', borderColor: (t) => t.roles.flow, pl: 1, my: 0.25, flex: 1, minWidth: 0 } : {}}
    >
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75, fontSize: 13 }}>
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
        const at = [...place, i];
        const props = { ...shared, place: at, onChange: (next: ConditionForm) => replace(i, next), onRemove: () => replace(i, undefined) };
        return (
          <Fragment key={i}>
            <DropGap group={place} at={i} />
            <Movable place={at}>
              {item.kind === 'group' ? (
                <ConditionGroup form={item} {...props} />
              ) : item.kind === 'test' ? (
                <TestRow form={item} {...props} />
              ) : (
                <TextRow form={item} {...props} />
              )}
            </Movable>
          </Fragment>
        );
      })}
      <DropGap group={place} at={form.items.length} />
      <Box sx={{ display: 'flex', gap: 0.5 }}>
        <AddButton onClick={() => add(emptyTest)}>+ condition</AddButton>
        <AddButton onClick={() => add({ kind: 'group', mode: 'any', items: [emptyTest] })}>+ group (any of)</AddButton>
        <AddButton onClick={() => add({ kind: 'group', mode: 'none', items: [emptyTest] })}>+ none of</AddButton>
        <AddButton onClick={() => add({ kind: 'text', text: '' })}>+ written out</AddButton>
      </Box>
    </Box>
  );
}

const emptyTest: ConditionForm = { kind: 'test', field: '', test: 'is', value: '' };

const rowStyle = {
  display: 'grid',
  gridTemplateColumns: 'minmax(120px, 1.3fr) minmax(104px, 0.9fr) minmax(110px, 1.2fr) 140px 22px',
  gap: 0.9,
  alignItems: 'center',
  flex: 1,
  minWidth: 0,
} as const;
function TestRow({ form, onChange, onRemove, fields, counts, reaching, before }: NodeProps<Test>) {
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
          : next === 'value' || next === 'condition'
            ? takes === next
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
            sx={codeInput}
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
      <ValueInput key={takes} form={form} field={field} onChange={onChange} before={before} />
      <Alone form={form} counts={counts} reaching={reaching} />
      {onRemove && <RemoveButton label="Remove the condition" onClick={onRemove} />}
    </Box>
  );
}

/** How many of the rows that reach this line the condition keeps by itself. */
function Alone({ form, counts, reaching }: { form: ConditionForm } & Pick<Shared, 'counts' | 'reaching'>) {
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
  const unsound = typed.trim() !== '' && canonicalCondition({ kind: 'text', text: typed }) === undefined;
  const write = () => !unsound && typed !== form.text && onChange({ kind: 'text', text: typed });
  return (
    <Box sx={{ ...rowStyle, gridTemplateColumns: 'minmax(0, 1fr) 140px 22px' }}>
      <TextField
        value={typed}
        error={unsound}
        onChange={(event) => setTyped(event.target.value)}
        placeholder="any condition, such as @.party.size > @.bunks"
        onBlur={write}
        onKeyDown={(event) => event.key === 'Enter' && write()}
        sx={codeInput}
        slotProps={{ htmlInput: { 'aria-label': 'Condition' } }}
      />
      <Alone form={form} counts={counts} reaching={reaching} />
      {onRemove && <RemoveButton label="Remove the condition" onClick={onRemove} />}
    </Box>
  );
}
