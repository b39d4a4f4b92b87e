import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import {
  canonicalCondition,
  conditionForm,
  conditionText,
  definitionOf,
  describeField,
  functionSignatures,
  parseOrderKeyText,
  parseValueText,
  printExpression,
  printGivenName,
  printOrderKey,
  stageWords,
  type CheckedStage,
  type ComputeStage,
  type ConditionForm,
  type OmitStage,
  type OrderStage,
  type SelectStage,
  type WhereStage,
} from '@zesty-sieve/core/language';
import { useEffect, useMemo, useState } from 'react';
import { codeFont } from '../../../app/theme.ts';
import { count, percent } from '../../../parts/numbers.ts';
import { useCollectionsQuery } from '../../../api/api.ts';
import { AddButton, ConditionGroup, RemoveButton } from './ConditionRows.tsx';
import { offeredFields } from './fields.ts';
import { useCounts } from './useCounts.ts';

interface StageFormProps {
  readonly checked: CheckedStage;
  /** Puts another text in place of the stage's own, from its word on. */
  readonly onText: (text: string) => void;
  readonly onTrace: () => void;
}

/** The form of the stage at the cursor: another face of its text. */
export function StageForm({ checked, onText, onTrace }: StageFormProps) {
  const { stage } = checked.placed;
  if (stage === undefined) return <Hint>This line cannot be read yet. Its form comes back when it can.</Hint>;
  switch (stage.kind) {
    case 'where':
      return <WhereForm checked={checked} stage={stage} onText={onText} onTrace={onTrace} />;
    case 'order':
      return <OrderForm checked={checked} stage={stage} onText={onText} />;
    case 'select':
    case 'omit':
      return <FieldsForm checked={checked} stage={stage} onText={onText} />;
    case 'compute':
      return <ComputeForm stage={stage} onText={onText} />;
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

function Hint({ children }: { children: string }) {
  return <Box sx={{ p: 2, color: 'text.secondary' }}>{children}</Box>;
}

function Word({ word, children }: { word: string; children?: string }) {
  return (
    <Box sx={{ fontSize: 13, pb: 1 }}>
      <Box component="code" sx={{ color: 'secondary.main', fontWeight: 700, pr: 0.75 }}>
        {word}
      </Box>
      <b>{children}</b>
    </Box>
  );
}

const frame = { px: 2, py: 1.5, overflow: 'auto', flex: 1, minHeight: 0 } as const;
const inputStyle = {
  '& .MuiInputBase-root': { fontFamily: codeFont, fontSize: 12.5, bgcolor: 'background.paper' },
  '& .MuiInputBase-input': { py: '6px' },
} as const;

function WhereForm({ checked, stage, onText, onTrace }: StageFormProps & { stage: WhereStage }) {
  const text = printExpression(stage.condition);
  const [form, setForm] = useState<ConditionForm & { kind: 'group' }>(() => conditionForm(stage.condition));
  useEffect(() => {
    // The form follows the text, unless the text is what the form has just written.
    setForm((now) => (canonicalCondition(now) === text ? now : conditionForm(stage.condition)));
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the stage is made anew with every text
  }, [text]);
  const fields = useMemo(() => offeredFields(checked.before), [checked.before]);
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
          <ConditionGroup lead="keeps a row when" form={form} onChange={change} fields={fields} counts={alone} reaching={reaching} />
        </Box>
      </Box>
      <Box sx={{ fontSize: 12.5, color: 'text.secondary', pt: 1 }}>
        {together !== undefined && reaching !== undefined && (
          <>
            together <b>{count(together)}</b> of {count(reaching)} · {percent(together / Math.max(1, reaching))} ·{' '}
          </>
        )}
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
    </Box>
  );
}

/** Rows that are begun and not filled in do not write to the text yet. */
function isComplete(form: ConditionForm): boolean {
  if (form.kind === 'group') return form.items.every(isComplete);
  return form.kind === 'text' || conditionText(form) !== undefined;
}

function OrderForm({ checked, stage, onText }: { checked: CheckedStage; stage: OrderStage; onText: (text: string) => void }) {
  const fields = useMemo(() => offeredFields(checked.before), [checked.before]);
  const rows = stage.keys.map((key) => ({ text: printExpression(key.expression), direction: key.direction, nulls: key.nulls }));
  const write = (next: typeof rows) => {
    const keys = next.map(({ text, direction, nulls }) => {
      const read = parseOrderKeyText(text);
      return 'key' in read ? printOrderKey({ ...read.key, direction, nulls }) : undefined;
    });
    if (keys.length > 0 && !keys.includes(undefined)) onText(`order by ${keys.join(', ')}`);
  };
  const swap = (i: number, j: number) => write(rows.map((row, k) => (k === i ? rows[j] : k === j ? rows[i] : row)));
  return (
    <Box sx={frame}>
      <Word word="order by">the first key decides, the next one ties</Word>
      {rows.map((row, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 0.75 }}>
          <Typed
            label="Key"
            value={row.text}
            list="order-fields"
            isSound={(text) => 'key' in parseOrderKeyText(text)}
            onChange={(text) => write(rows.map((old, k) => (k === i ? { ...old, text } : old)))}
          />
          <ToggleButtonGroup
            value={row.direction}
            onChange={(_event, direction: 'asc' | 'desc' | null) =>
              direction && write(rows.map((old, k) => (k === i ? { ...old, direction } : old)))
            }
            aria-label="Direction"
          >
            <ToggleButton value="asc">rising</ToggleButton>
            <ToggleButton value="desc">falling</ToggleButton>
          </ToggleButtonGroup>
          <ToggleButtonGroup
            value={row.nulls}
            onChange={(_event, nulls: 'first' | 'last' | null) => nulls && write(rows.map((old, k) => (k === i ? { ...old, nulls } : old)))}
            aria-label="Where missing values go"
          >
            <ToggleButton value="first">nulls first</ToggleButton>
            <ToggleButton value="last">last</ToggleButton>
          </ToggleButtonGroup>
          <Button size="small" disabled={i === 0} onClick={() => swap(i, i - 1)} aria-label="Move the key up" sx={{ minWidth: 28, px: 0 }}>
            ↑
          </Button>
          {rows.length > 1 && <RemoveButton label="Remove the key" onClick={() => write(rows.filter((_, k) => k !== i))} />}
        </Box>
      ))}
      <datalist id="order-fields">
        {fields.map(({ path }) => (
          <option key={path} value={path} />
        ))}
      </datalist>
      <AddButton
        onClick={() =>
          write([
            ...rows,
            { text: fields.find(({ path }) => !rows.some(({ text }) => text === path))?.path ?? '@.id', direction: 'asc', nulls: 'last' },
          ])
        }
      >
        + key
      </AddButton>
    </Box>
  );
}

/** A text that is written to the pipeline when it is sound and left. */
function Typed({
  label,
  value,
  list,
  isSound,
  onChange,
}: {
  label: string;
  value: string;
  list?: string;
  isSound: (text: string) => boolean;
  onChange: (text: string) => void;
}) {
  const [typed, setTyped] = useState(value);
  useEffect(() => setTyped(value), [value]);
  const sound = isSound(typed);
  return (
    <TextField
      value={typed}
      error={!sound}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={() => sound && typed !== value && onChange(typed)}
      onKeyDown={(event) => event.key === 'Enter' && sound && typed !== value && onChange(typed)}
      sx={{ ...inputStyle, flex: 1, minWidth: 120 }}
      slotProps={{ htmlInput: { 'aria-label': label, list } }}
    />
  );
}

function FieldsForm({ checked, stage, onText }: { checked: CheckedStage; stage: SelectStage | OmitStage; onText: (text: string) => void }) {
  const fields = useMemo(() => offeredFields(checked.before), [checked.before]);
  const word = stage.kind;
  const items =
    stage.kind === 'select'
      ? stage.items.map(({ expression, target, named }) => ({
          text: printExpression(expression),
          name: named ? printGivenName(target) : undefined,
        }))
      : stage.paths.map((path) => ({ text: printExpression(path), name: undefined }));
  const shown = new Set(fields.map(({ path }) => path));
  const chosen = new Set(items.filter(({ name }) => name === undefined).map(({ text }) => text));
  const others = items.filter(({ text, name }) => name !== undefined || !shown.has(text));
  const write = (next: typeof items) =>
    next.length > 0 && onText(`${word} ${next.map(({ text, name }) => (name === undefined ? text : `${text} as ${name}`)).join(', ')}`);
  const toggle = (path: string) => {
    if (chosen.has(path)) write(items.filter(({ text, name }) => name !== undefined || text !== path));
    // A field stands for all inside it: those go when it is chosen.
    else
      write([
        ...items.filter(({ text, name }) => name !== undefined || !(text.startsWith(`${path}.`) || path.startsWith(`${text}.`))),
        { text: path, name: undefined },
      ]);
  };
  return (
    <Box sx={frame}>
      <Word word={word}>{word === 'select' ? 'keeps only these fields' : 'keeps all fields but these'}</Word>
      <Box sx={{ columns: '210px', columnGap: 2 }}>
        {fields.map(({ path, info, depth }) => (
          <Box
            component="label"
            key={path}
            title={describeField(info).detail}
            sx={{
              display: 'flex',
              alignItems: 'center',
              breakInside: 'avoid',
              pl: depth * 1.5,
              fontFamily: codeFont,
              fontSize: 12,
              cursor: 'pointer',
            }}
          >
            <Checkbox size="small" checked={chosen.has(path)} onChange={() => toggle(path)} sx={{ p: 0.25, mr: 0.5 }} />
            {path}
          </Box>
        ))}
      </Box>
      {others.map(({ text, name }) => (
        <Box key={text + name} sx={{ display: 'flex', alignItems: 'center', gap: 1, fontFamily: codeFont, fontSize: 12 }}>
          {text}
          {name !== undefined && ` as ${name}`}
          <RemoveButton
            label={`Remove ${name ?? text}`}
            onClick={() => write(items.filter((item) => item.text !== text || item.name !== name))}
          />
        </Box>
      ))}
    </Box>
  );
}

function ComputeForm({ stage, onText }: { stage: ComputeStage; onText: (text: string) => void }) {
  const rows = stage.assignments.map(({ target, expression }) => ({ name: printGivenName(target), text: printExpression(expression) }));
  const write = (next: typeof rows) => next.length > 0 && onText(`compute ${next.map(({ name, text }) => `${name} = ${text}`).join(', ')}`);
  const isName = (name: string) => /^[\p{L}_][\p{L}\p{N}_]*(\.[\p{L}_][\p{L}\p{N}_]*)*$|^".*"$/u.test(name);
  const isValue = (text: string) => 'expression' in parseValueText(text);
  return (
    <Box sx={frame}>
      <Word word="compute">adds these fields, from left to right</Word>
      {rows.map((row, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 0.75 }}>
          <Box sx={{ width: 150, display: 'flex' }}>
            <Typed
              label="Name"
              value={row.name}
              isSound={isName}
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
          {rows.length > 1 && <RemoveButton label="Remove the field" onClick={() => write(rows.filter((_, k) => k !== i))} />}
        </Box>
      ))}
      <AddButton onClick={() => write([...rows, { name: `field${rows.length + 1}`, text: '1' }])}>+ field</AddButton>
      <FunctionHelp />
    </Box>
  );
}

/** Every function with what it does, by its group. */
function FunctionHelp() {
  const all = Object.entries(functionSignatures);
  const groups = new Map(
    [...new Set(all.map(([, { group }]) => group))].map((group) => [group, all.filter(([, signature]) => signature.group === group)]),
  );
  return (
    <Box component="details" sx={{ fontSize: 12, pt: 1, '& summary': { cursor: 'pointer', color: 'text.secondary' } }}>
      <summary>Functions</summary>
      {[...groups].map(([group, entries]) => (
        <Box key={group} sx={{ pt: 1 }}>
          <b>{group}</b>
          {entries.map(([name, { doc, example }]) => (
            <Box key={name} sx={{ py: 0.25 }}>
              <code>{example}</code> <span>{doc}</span>
            </Box>
          ))}
        </Box>
      ))}
    </Box>
  );
}

function FromForm({ source, onText }: { source: string; onText: (text: string) => void }) {
  const { data: collections = [] } = useCollectionsQuery();
  const known = collections.some(({ name }) => name === source);
  return (
    <Box sx={frame}>
      <Word word="from">the documents of a collection</Word>
      <Select
        size="small"
        displayEmpty
        value={known ? source : ''}
        onChange={(event) => onText(`from ${event.target.value}`)}
        inputProps={{ 'aria-label': 'Collection' }}
        sx={{ minWidth: 220, bgcolor: 'background.paper', fontSize: 13 }}
      >
        {!known && <MenuItem value="">{source === '' ? 'choose one' : `there is no ${source}`}</MenuItem>}
        {collections.map(({ name, count: documents }) => (
          <MenuItem key={name} value={name}>
            {name}
            <Box component="span" sx={{ color: 'text.secondary', pl: 1.5 }}>
              {count(documents)}
            </Box>
          </MenuItem>
        ))}
      </Select>
    </Box>
  );
}

function CountForm({ word, text, doc, onText }: { word: string; text: string; doc: string; onText: (text: string) => void }) {
  return (
    <Box sx={frame}>
      <Word word={word}>{doc}</Word>
      <Box sx={{ width: 200, display: 'flex' }}>
        <Typed label="Rows" value={text} isSound={(typed) => 'expression' in parseValueText(typed)} onChange={onText} />
      </Box>
    </Box>
  );
}

/** What may be added after the stage at the cursor. */
export const stageStarts: readonly { readonly word: string; readonly text: (firstField: string) => string }[] = [
  { word: 'where', text: (field) => `where ${field}` },
  { word: 'select', text: (field) => `select ${field}` },
  { word: 'omit', text: (field) => `omit ${field}` },
  { word: 'compute', text: () => 'compute field = 1' },
  { word: 'order by', text: (field) => `order by ${field}` },
  { word: 'offset', text: () => 'offset 0' },
  { word: 'limit', text: () => 'limit 20' },
  { word: 'sample', text: () => 'sample 100 seed 1' },
];
