import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import {
  aggregateNames,
  aggregates,
  ownName,
  parseConditionText,
  parseValueText,
  readGroup,
  takenBy,
  writeGroup,
  type AggregateName,
  type CheckedStage,
  type GroupAllStage,
  type GroupKeyRow,
  type GroupStage,
  type MeasureRow,
} from '@zesty-sieve/core/language';
import { useMemo } from 'react';
import { isGivenName } from './ComputeForm.tsx';
import { kindsOf, offeredFields } from './fields.ts';
import { AddButton, frame, RemoveButton, Typed, Word } from './parts.tsx';

const isValue = (text: string): boolean => 'expression' in parseValueText(text);
const isConditionOrNone = (text: string): boolean => text.trim() === '' || 'expression' in parseConditionText(text);
/** The keys of groups and what is measured over each; without keys, over everything. */
export function GroupForm({
  checked,
  stage,
  onText,
}: {
  checked: CheckedStage;
  stage: GroupStage | GroupAllStage;
  onText: (text: string) => void;
}) {
  const fields = useMemo(() => offeredFields(checked.before), [checked.before]);
  const { keys, measures } = readGroup(stage);
  const write = (nextKeys: readonly GroupKeyRow[], nextMeasures: readonly MeasureRow[]) => {
    const text = writeGroup({ keys: nextKeys, measures: nextMeasures });
    if (text !== undefined) onText(text);
  };
  const numbers = fields.filter(({ info }) => kindsOf(info).includes('number')).map(({ path }) => path);
  const changeMeasure = (i: number, next: Partial<MeasureRow>) =>
    write(
      keys,
      measures.map((old, k) => (k === i ? { ...old, ...next } : old)),
    );
  return (
    <Box sx={frame}>
      <Word word={keys.length === 0 ? 'group all' : 'group by'}>
        {keys.length === 0 ? 'one row for everything' : 'one row for each different'}
      </Word>
      {keys.map((key, i) => (
        <KeyRow
          key={i}
          row={key}
          onChange={(next) =>
            write(
              keys.map((old, k) => (k === i ? next : old)),
              measures,
            )
          }
          onRemove={() =>
            write(
              keys.filter((_, k) => k !== i),
              measures,
            )
          }
        />
      ))}
      <AddButton
        onClick={() => {
          const free = fields.find(
            ({ path, info }) =>
              !keys.some(({ text }) => text === path) && !kindsOf(info).includes('object') && !kindsOf(info).includes('array'),
          );
          const text = free?.path ?? '@.id';
          write([...keys, { text, name: ownName(text) ?? 'key' }], measures);
        }}
      >
        + key
      </AddButton>
      <Box sx={{ fontSize: 13, pt: 0.5, pb: 0.75 }}>
        <Box component="code" sx={{ color: 'secondary.main', fontWeight: 700 }}>
          measure
        </Box>
      </Box>
      {measures.map((measure, i) => (
        <MeasureLine
          key={i}
          row={measure}
          firstOf={(aggregate) =>
            takenBy(aggregate) === 'condition' ? (fields[0]?.path ?? '@.id') : (numbers[0] ?? fields[0]?.path ?? '@.id')
          }
          onChange={(next) => changeMeasure(i, next)}
          onRemove={() =>
            write(
              keys,
              measures.filter((_, k) => k !== i),
            )
          }
        />
      ))}
      <datalist id="group-fields">
        {fields.map(({ path }) => (
          <option key={path} value={path} />
        ))}
      </datalist>
      <AddButton
        onClick={() =>
          write(keys, [
            ...measures,
            numbers[0] === undefined
              ? { name: 'rows', aggregate: 'count', argument: '', percentage: '', where: '' }
              : { name: `sum${measures.length + 1}`, aggregate: 'sum', argument: numbers[0], percentage: '', where: '' },
          ])
        }
      >
        + measure
      </AddButton>
    </Box>
  );
}

interface KeyRowProps {
  readonly row: GroupKeyRow;
  readonly onChange: (next: GroupKeyRow) => void;
  readonly onRemove: () => void;
}

function KeyRow({ row, onChange, onRemove }: KeyRowProps) {
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 0.75 }}>
      <Typed
        label="Key"
        value={row.text}
        list="group-fields"
        isSound={isValue}
        onChange={(text) => onChange({ text, name: ownName(text) ?? row.name })}
      />
      as
      <Box sx={{ width: 130, display: 'flex' }}>
        <Typed label="Name of the key" value={row.name} isSound={isGivenName} onChange={(name) => onChange({ ...row, name })} />
      </Box>
      <RemoveButton label="Remove the key" onClick={onRemove} />
    </Box>
  );
}

interface MeasureLineProps {
  readonly row: MeasureRow;
  /** What an aggregate is of until something else is chosen. */
  readonly firstOf: (aggregate: AggregateName) => string;
  readonly onChange: (next: Partial<MeasureRow>) => void;
  readonly onRemove: () => void;
}

function MeasureLine({ row, firstOf, onChange, onRemove }: MeasureLineProps) {
  const taken = takenBy(row.aggregate);
  return (
    <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center', pb: 0.75 }}>
      <Box sx={{ width: 105, display: 'flex' }}>
        <Typed label="Name of the measure" value={row.name} isSound={isGivenName} onChange={(name) => onChange({ name })} />
      </Box>
      =
      <Select
        size="small"
        value={row.aggregate}
        onChange={(event) => {
          const aggregate = event.target.value as AggregateName;
          onChange({ aggregate, argument: row.argument !== '' ? row.argument : firstOf(aggregate) });
        }}
        inputProps={{ 'aria-label': 'Aggregate' }}
        sx={{ fontSize: 12.5, bgcolor: 'background.paper', width: 118, '& .MuiSelect-select': { py: '5px' } }}
      >
        {aggregateNames.map((name) => (
          <MenuItem key={name} value={name} title={aggregates[name].doc}>
            {name}
          </MenuItem>
        ))}
      </Select>
      {taken !== 'nothing' && (
        <Typed label="Of what" value={row.argument} list="group-fields" isSound={isValue} onChange={(argument) => onChange({ argument })} />
      )}
      {taken === 'value and percentage' && (
        <Box sx={{ width: 60, display: 'flex' }}>
          <Typed label="Percentage" value={row.percentage} isSound={isValue} onChange={(percentage) => onChange({ percentage })} />
        </Box>
      )}
      where
      <Typed label="Only rows" value={row.where} isSound={isConditionOrNone} onChange={(where) => onChange({ where })} />
      <RemoveButton label="Remove the measure" onClick={onRemove} />
    </Box>
  );
}
