import { skipToken } from '@reduxjs/toolkit/query/react';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import {
  isPairCondition,
  namedSources,
  printExpression,
  readJoin,
  stageWords,
  withPartnerName,
  writeJoin,
  type CheckedStage,
  type Expression,
  type JoinForm as Joining,
  type JoinKind,
  type JoinStage,
} from '@zesty-sieve/core/language';
import { useMemo } from 'react';
import { useCollectionsQuery } from '../../api/collections.ts';
import { usePipelinesQuery } from '../../api/pipelines.ts';
import { useOverlapsQuery } from '../../api/shapes.ts';
import { codeFont } from '../../app/theme.ts';
import { percent } from '../numbers.ts';
import { isGivenName } from './ComputeForm.tsx';
import { offeredFields } from './fields.ts';
import { BothSides } from './join/BothSides.tsx';
import { BroughtOver } from './join/BroughtOver.tsx';
import { Matches } from './join/Matches.tsx';
import { Pairing } from './join/Pairing.tsx';
import { frame, RemoveButton, Typed, Word } from './parts.tsx';
import { useWrittenText } from './writtenText.ts';

const kinds: readonly (readonly [JoinKind, string])[] = [
  ['join', 'only rows with a match'],
  ['leftJoin', 'all rows'],
  ['gatherJoin', 'all rows, matches in a list'],
];

/** Brings another collection in: which, under what name, and which fields pair. */
export function JoinForm({
  checked,
  stage,
  next,
  onText,
  onNext,
}: {
  checked: CheckedStage;
  stage: JoinStage;
  next: CheckedStage | undefined;
  onText: (text: string) => void;
  onNext: (text: string | undefined, replaces: CheckedStage | undefined) => void;
}) {
  const { data: collections = [] } = useCollectionsQuery();
  const { data: pipelines = [] } = usePipelinesQuery();
  const { text } = useWrittenText();
  const views = pipelines.filter(({ view }) => view).map(({ name }) => name);
  const isCollection = collections.some(({ name }) => name === stage.source);
  const partner = stage.target.names[stage.target.names.length - 1]!;
  const conjuncts = stage.condition.kind === 'and' ? stage.condition.operands : [stage.condition];
  const now = readJoin(stage);
  const { name, conditions } = now;
  const write = (changed: Partial<Joining>) => {
    const text = writeJoin({ ...now, ...changed });
    if (text !== undefined) onText(text);
  };
  const before = text.slice(0, checked.placed.from);
  const proposals = useProposals(checked, stage, isCollection, conditions);
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
          <Typed
            label="Name of the partner"
            value={name}
            isSound={isGivenName}
            onChange={(called) => write(withPartnerName(now, called))}
          />
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
      <Pairs conditions={conditions} stage={stage} onChange={(next) => write({ conditions: next })} />
      {proposals.found.slice(0, 4).map(({ condition, share, first, second }) => (
        <Button
          key={condition}
          size="small"
          variant="outlined"
          color="info"
          onClick={() => write({ conditions: isUntouched(conjuncts, proposals) ? [condition] : [...conditions, condition] })}
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
      <BroughtOver checked={checked} stage={stage} next={next} onNext={onNext} />
      <BothSides
        before={before}
        source={stage.source}
        isCollection={isCollection}
        written={`${before}limit 1\n${text.slice(checked.placed.wordFrom, checked.placed.to)}`}
      />
    </Box>
  );
}

interface PairsProps {
  readonly conditions: readonly string[];
  readonly stage: JoinStage;
  readonly onChange: (next: readonly string[]) => void;
}

/** What pairs a row with its partner: one condition a line. */
function Pairs({ conditions, stage, onChange }: PairsProps) {
  return (
    <>
      {conditions.map((condition, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 0.75 }}>
          <Box sx={{ width: 34, fontSize: 12.5 }}>{i === 0 ? 'on' : 'and'}</Box>
          <Typed
            label="Pair"
            value={condition}
            isSound={(typed) => isPairCondition(typed, stage)}
            onChange={(typed) => onChange(conditions.map((old, k) => (k === i ? typed : old)))}
          />
          {conditions.length > 1 && <RemoveButton label="Remove the pair" onClick={() => onChange(conditions.filter((_, k) => k !== i))} />}
        </Box>
      ))}
    </>
  );
}

interface Proposals {
  readonly found: readonly { readonly condition: string; readonly first: string; readonly second: string; readonly share: number }[];
  readonly leftFields: ReadonlySet<string>;
  /** Pairs of fields of the two collections that are known to have values in common. */
  readonly known: number;
}

/** Conditions for fields of the two sides that have values in common, but for those that stand there. */
function useProposals(checked: CheckedStage, stage: JoinStage, isCollection: boolean, conditions: readonly string[]): Proposals {
  const { data: collections = [] } = useCollectionsQuery();
  const { text } = useWrittenText();
  const base = namedSources(text.slice(0, checked.placed.from))[0];
  const { currentData: overlaps } = useOverlapsQuery(
    base !== undefined && isCollection && collections.some((one) => one.name === base) ? { first: base, second: stage.source } : skipToken,
  );
  const pairs = overlaps?.pairs ?? [];
  const partner = stage.target.names[stage.target.names.length - 1]!;
  const leftFields = useMemo(() => new Set(offeredFields(checked.before).map(({ path }) => path)), [checked.before]);
  const found = pairs.flatMap(({ first, second, share }) => {
    if (!leftFields.has(first) || second.includes('[*]')) return [];
    const condition = `${partner}${second.slice(1)} == ${first}`;
    return conditions.includes(condition) ? [] : [{ condition, first, second, share }];
  });
  return { found, leftFields, known: pairs.length };
}

/** A condition that pairs nothing that is known yet stands in for one that is to come. */
function isUntouched(conjuncts: readonly Expression[], { leftFields, known }: Proposals): boolean {
  const [only] = conjuncts;
  if (only === undefined || conjuncts.length !== 1 || known === 0 || only.kind !== 'comparison') return false;
  return printExpression(only.right) === '@.id' && leftFields.has('@.id');
}
