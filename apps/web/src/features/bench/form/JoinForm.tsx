import { skipToken } from '@reduxjs/toolkit/query/react';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import {
  fieldNames,
  namedSources,
  parseConditionText,
  printExpression,
  printGivenName,
  stageWords,
  type CheckedStage,
  type Expression,
  type JoinKind,
  type JoinStage,
} from '@zesty-sieve/core/language';
import { useMemo, useState } from 'react';
import { useCollectionsQuery, useDocumentsQuery, useOverlapsQuery, usePipelinesQuery, useShapeQuery } from '../../../api/api.ts';
import { useAppDispatch, useAppSelector } from '../../../app/store.ts';
import { codeFont } from '../../../app/theme.ts';
import { count, percent } from '../../../parts/numbers.ts';
import { JsonView } from '../output/JsonView.tsx';
import { opened } from '../state/benchSlice.ts';
import { isGivenName } from './ComputeForm.tsx';
import { offeredFields } from './fields.ts';
import { frame, RemoveButton, Typed, Word } from './parts.tsx';
import { useSample } from './useSample.ts';
import { useWrittenText } from './writtenText.ts';

const kinds: readonly (readonly [JoinKind, string])[] = [
  ['join', 'only rows with a match'],
  ['leftJoin', 'all rows'],
  ['gatherJoin', 'all rows, matches in a list'],
];

/** Brings another collection in: which, under what name, and which fields pair. */
export function JoinForm({ checked, stage, onText }: { checked: CheckedStage; stage: JoinStage; onText: (text: string) => void }) {
  const { data: collections = [] } = useCollectionsQuery();
  const { data: pipelines = [] } = usePipelinesQuery();
  const { text } = useWrittenText();
  const views = pipelines.filter(({ view }) => view).map(({ name }) => name);
  const isCollection = collections.some(({ name }) => name === stage.source);
  const name = printGivenName(stage.target.names);
  const partner = stage.target.names[stage.target.names.length - 1];
  const conjuncts = stage.condition.kind === 'and' ? stage.condition.operands : [stage.condition];
  const conditions = conjuncts.map((one) => printExpression(one));
  const write = (next: { kind?: JoinKind; source?: string; name?: string; conditions?: readonly string[] }) => {
    const all = { kind: stage.kind, source: stage.source, name, conditions, ...next };
    const renamed =
      all.name === name
        ? all.conditions
        : all.conditions.map((condition) => withPartner(condition, partner, all.name.split('.').pop() ?? all.name));
    onText(`${stageWords(all.kind)} ${all.source} as ${all.name} on ${renamed.join(' && ')}`);
  };
  const before = text.slice(0, checked.placed.from);
  const base = namedSources(before)[0];
  const { currentData: pairs } = useOverlapsQuery(
    base !== undefined && isCollection && collections.some((one) => one.name === base) ? { first: base, second: stage.source } : skipToken,
  );
  const paired = new Set(conditions);
  const leftFields = useMemo(() => new Set(offeredFields(checked.before).map(({ path }) => path)), [checked.before]);
  const proposals = (pairs ?? []).flatMap(({ first, second, share }) => {
    if (!leftFields.has(first) || second.includes('[*]')) return [];
    const condition = `${partner}${second.slice(1)} == ${first}`;
    return paired.has(condition) ? [] : [{ condition, first, second, share }];
  });
  return (
    <Box sx={frame}>
      <Word word={stageWords(stage.kind)}>brings in the documents of another collection</Word>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 1, flexWrap: 'wrap' }}>
        <TextField
          select
          label="Partner"
          value={isCollection || views.includes(stage.source) ? stage.source : ''}
          onChange={(event) => write({ source: event.target.value })}
          sx={{ width: 150, bgcolor: 'background.paper' }}
        >
          {[...collections.map((one) => one.name), ...views].map((one) => (
            <MenuItem key={one} value={one}>
              {one}
            </MenuItem>
          ))}
        </TextField>
        as
        <Box sx={{ width: 110, display: 'flex' }}>
          <Typed label="Name of the partner" value={name} isSound={isGivenName} onChange={(next) => write({ name: next })} />
        </Box>
        <ToggleButtonGroup
          value={stage.kind}
          onChange={(_event, kind: JoinKind | null) => kind && write({ kind })}
          aria-label="Which rows stay"
        >
          {kinds.map(([kind, label]) => (
            <ToggleButton key={kind} value={kind}>
              {label}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
      </Box>
      <Matches checked={checked} stage={stage} />
      {conditions.map((condition, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 0.75 }}>
          <Box sx={{ width: 34, fontSize: 12.5 }}>{i === 0 ? 'on' : 'and'}</Box>
          <Typed
            label="Pair"
            value={condition}
            isSound={(typed) => isSoundPair(typed, partner)}
            onChange={(typed) => write({ conditions: conditions.map((old, k) => (k === i ? typed : old)) })}
          />
          {conditions.length > 1 && (
            <RemoveButton label="Remove the pair" onClick={() => write({ conditions: conditions.filter((_, k) => k !== i) })} />
          )}
        </Box>
      ))}
      {proposals.slice(0, 4).map(({ condition, share, first, second }) => (
        <Button
          key={condition}
          size="small"
          variant="outlined"
          color="info"
          onClick={() =>
            write({ conditions: isUntouched(conjuncts, leftFields, pairs?.length ?? 0) ? [condition] : [...conditions, condition] })
          }
          sx={{ mr: 0.75, mb: 0.75, fontFamily: codeFont, fontSize: 11.5 }}
        >
          {first} ↔ {second} · {percent(share)} match
        </Button>
      ))}
      <Pairing
        checked={checked}
        stage={stage}
        partner={partner}
        onPair={(condition) => write({ conditions: [...conditions.filter((one) => one !== condition), condition] })}
      />
      <BothSides
        before={before}
        source={stage.source}
        isCollection={isCollection}
        written={`${before}limit 1\n${text.slice(checked.placed.wordFrom, checked.placed.to)}`}
      />
    </Box>
  );
}

/** A condition that pairs nothing that is known yet stands in for one that is to come. */
function isUntouched(conjuncts: readonly Expression[], leftFields: ReadonlySet<string>, known: number): boolean {
  const [only] = conjuncts;
  if (conjuncts.length !== 1 || known === 0 || only.kind !== 'comparison') return false;
  return printExpression(only.right) === '@.id' && leftFields.has('@.id');
}

function isSoundPair(typed: string, partner: string): boolean {
  // The partner's name is no value by itself: it is read as a field for the check.
  return 'expression' in parseConditionText(typed.replaceAll(new RegExp(`(^|[^.\\w@$])${partner}(?=[.[])`, 'g'), '$1@'));
}

function withPartner(condition: string, from: string, to: string): string {
  return condition.replaceAll(new RegExp(`(^|[^.\\w@$])${from}(?=[.[])`, 'g'), `$1${to}`);
}

/** How many rows met how many partners, in the last run; each opens as a list of its rows. */
function Matches({ checked, stage }: { checked: CheckedStage; stage: JoinStage }) {
  const plan = useAppSelector(({ bench }) => bench.whole.answer?.result.plan);
  const { text, parameters } = useWrittenText();
  const dispatch = useAppDispatch();
  const found = plan === undefined ? undefined : matchesAt(plan, checked.placed.line);
  if (found === undefined) return null;
  const name = printGivenName(stage.target.names);
  const open = (condition: string) => {
    const gathered = `${stageWords('gatherJoin')} ${stage.source} as ${name} on ${printExpression(stage.condition)}`;
    dispatch(opened({ text: `${text.slice(0, checked.placed.from)}${gathered}\nwhere ${condition}\n`, parameters: { ...parameters } }));
  };
  const rows = `length(@.${name})`;
  const link = (label: string, n: number, condition: string, isOdd: boolean) => (
    <Box
      component="button"
      type="button"
      disabled={n === 0}
      title={`Open the rows that met ${label}`}
      onClick={() => open(condition)}
      sx={{
        all: 'unset',
        cursor: n === 0 ? 'default' : 'pointer',
        textDecoration: n === 0 ? 'none' : 'underline',
        color: isOdd && n > 0 ? 'secondary.main' : 'inherit',
        '&:focus-visible': { outline: 'auto' },
      }}
    >
      <b>{count(n)}</b>
      {label === 'one partner' ? ' rows met one partner' : ` ${label}`}
    </Box>
  );
  return (
    <Box aria-label="Rows and their partners" sx={{ fontSize: 12.5, color: 'text.secondary', pb: 1 }}>
      {link('one partner', found.one, `${rows} == 1`, false)}, {link('none', found.none, `${rows} == 0`, true)},{' '}
      {link('several', found.several, `${rows} > 1`, true)}
    </Box>
  );
}

interface Step {
  readonly lines: readonly number[];
  readonly matches?: { readonly none: number; readonly one: number; readonly several: number };
  readonly inputs: readonly Step[];
}

function matchesAt(step: Step, line: number): Step['matches'] {
  if (step.matches && step.lines.includes(line)) return step.matches;
  for (const input of step.inputs) {
    const found = matchesAt(input, line);
    if (found) return found;
  }
  return undefined;
}

/** Two clicks pair two fields: one of the row, one of the partner. */
function Pairing({
  checked,
  stage,
  partner,
  onPair,
}: {
  checked: CheckedStage;
  stage: JoinStage;
  partner: string;
  onPair: (condition: string) => void;
}) {
  const [left, setLeft] = useState<string | null>(null);
  const { data: collections = [] } = useCollectionsQuery();
  const { data: shape } = useShapeQuery(collections.some(({ name }) => name === stage.source) ? stage.source : skipToken);
  const fields = useMemo(
    () => offeredFields(checked.before).filter(({ info }) => info === undefined || info.types.text || info.types.number),
    [checked.before],
  );
  const partners = (shape?.fields ?? []).filter(
    ({ steps, types }) => steps.every((step) => 'field' in step) && (types.text || types.number),
  );
  const used = fieldNamesOf(stage.condition);
  const chip = (isChosen: boolean) => ({
    py: 0,
    px: 0.75,
    minWidth: 0,
    fontFamily: codeFont,
    fontSize: 11.5,
    fontWeight: 450,
    bgcolor: isChosen ? 'text.primary' : 'transparent',
    color: isChosen ? 'background.paper' : 'text.primary',
    '&:hover': { bgcolor: isChosen ? 'text.primary' : 'action.hover' },
  });
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, pt: 0.5, pb: 1 }}>
      <Box role="group" aria-label="Fields of the row">
        <Box sx={{ fontSize: 12, color: 'text.secondary', pb: 0.25 }}>{left === null ? 'pair a field of the row' : `pair ${left}`}</Box>
        {fields.slice(0, 24).map(({ path }) => (
          <Button
            key={path}
            size="small"
            aria-pressed={left === path}
            onClick={() => setLeft(left === path ? null : path)}
            sx={chip(left === path)}
          >
            {path}
          </Button>
        ))}
      </Box>
      <Box role="group" aria-label="Fields of the partner">
        <Box sx={{ fontSize: 12, color: 'text.secondary', pb: 0.25 }}>with one of {stage.source}</Box>
        {partners.slice(0, 24).map(({ path }) => (
          <Button
            key={path}
            size="small"
            disabled={left === null}
            onClick={() => {
              onPair(`${partner}${path.slice(1)} == ${left}`);
              setLeft(null);
            }}
            sx={chip(used.has(path))}
          >
            {path.slice(2)}
          </Button>
        ))}
      </Box>
    </Box>
  );
}

function fieldNamesOf(condition: Expression): Set<string> {
  const names = new Set<string>();
  const parts = condition.kind === 'and' ? condition.operands : [condition];
  for (const part of parts) {
    if (part.kind !== 'comparison') continue;
    for (const side of [part.left, part.right]) {
      if (side.kind === 'path' && side.root.kind === 'partner') names.add(`@.${(fieldNames(side) ?? []).join('.')}`);
    }
  }
  return names;
}

/** The first document of both sides, and what a row looks like after the join. */
function BothSides({ before, source, isCollection, written }: { before: string; source: string; isCollection: boolean; written: string }) {
  const [row] = useSample(before.trim() === '' ? undefined : `${before}limit 1`, 1) ?? [];
  const [joined] = useSample(written, 1) ?? [];
  const { data } = useDocumentsQuery(isCollection ? { collection: source, size: 1 } : skipToken);
  const columns: readonly (readonly [string, unknown])[] = [
    ['a row before', row],
    [`one of ${source}`, data?.documents[0]],
    ['the row after', joined],
  ];
  return (
    <Box component="details" sx={{ fontSize: 12, '& summary': { cursor: 'pointer', color: 'text.secondary' } }}>
      <summary>Both sides, and the row after</summary>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr 1fr', gap: 1.5, pt: 1 }}>
        {columns.map(([label, value]) => (
          <Box key={label} sx={{ minWidth: 0 }}>
            <Box sx={{ color: 'text.secondary' }}>{label}</Box>
            {value === undefined ? 'none' : <JsonView value={value} open={1} />}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
