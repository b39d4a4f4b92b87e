import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import Select from '@mui/material/Select';
import {
  aggregateNames,
  aggregates,
  fieldNames,
  parseConditionText,
  parseValueText,
  printExpression,
  printGivenName,
  type Aggregate,
  type AggregateName,
  type CheckedStage,
  type GroupAllStage,
  type GroupStage,
} from '@zesty-sieve/core/language';
import { useMemo } from 'react';
import { isGivenName } from './ComputeForm.tsx';
import { kindsOf, offeredFields } from './fields.ts';
import { AddButton, frame, RemoveButton, Typed, Word } from './parts.tsx';

interface KeyRow {
  readonly text: string;
  readonly name: string;
}
interface MeasureRow {
  readonly name: string;
  readonly aggregate: AggregateName;
  readonly argument: string;
  readonly percentage: string;
  readonly where: string;
}

const takesOf = (aggregate: AggregateName): Aggregate['takes'] => (aggregates[aggregate] as Aggregate).takes;
const isValue = (text: string): boolean => 'expression' in parseValueText(text);
const isConditionOrNone = (text: string): boolean => text.trim() === '' || 'expression' in parseConditionText(text);
/** What a path's own name would be: then it needs no other. */
function ownName(text: string): string | undefined {
  const read = parseValueText(text);
  const names = 'expression' in read && read.expression.kind === 'path' ? fieldNames(read.expression) : undefined;
  return names && printGivenName(names);
}

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
  const keys: KeyRow[] =
    stage.kind === 'group'
      ? stage.keys.map(({ expression, target }) => ({ text: printExpression(expression), name: printGivenName(target) }))
      : [];
  const measures: MeasureRow[] = stage.measures.map(({ target, aggregate, argument, percentage, where }) => ({
    name: printGivenName(target),
    aggregate,
    argument: argument ? printExpression(argument) : '',
    percentage: percentage ? printExpression(percentage) : '',
    where: where ? printExpression(where) : '',
  }));
  const write = (nextKeys: readonly KeyRow[], nextMeasures: readonly MeasureRow[]) => {
    const keyText = nextKeys.map(({ text, name }) => (ownName(text) === name ? text : `${text} as ${name}`)).join(', ');
    const measureText = nextMeasures
      .map(({ name, aggregate, argument, percentage, where }) => {
        const given =
          takesOf(aggregate) === 'nothing'
            ? ''
            : takesOf(aggregate) === 'value and percentage'
              ? `${argument}, ${percentage || '50'}`
              : argument;
        return `${name} = ${aggregate}(${given})${where.trim() === '' ? '' : ` where ${where}`}`;
      })
      .join(', ');
    if (nextKeys.length === 0 && measureText === '') return;
    onText(`${nextKeys.length === 0 ? 'group all' : `group by ${keyText}`}${measureText === '' ? '' : `\n  measure ${measureText}`}`);
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
        <Box key={i} sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 0.75 }}>
          <Typed
            label="Key"
            value={key.text}
            list="group-fields"
            isSound={isValue}
            onChange={(text) =>
              write(
                keys.map((old, k) => (k === i ? { text, name: ownName(text) ?? old.name } : old)),
                measures,
              )
            }
          />
          as
          <Box sx={{ width: 130, display: 'flex' }}>
            <Typed
              label="Name of the key"
              value={key.name}
              isSound={isGivenName}
              onChange={(name) =>
                write(
                  keys.map((old, k) => (k === i ? { ...old, name } : old)),
                  measures,
                )
              }
            />
          </Box>
          <RemoveButton
            label="Remove the key"
            onClick={() =>
              write(
                keys.filter((_, k) => k !== i),
                measures,
              )
            }
          />
        </Box>
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
        <Box key={i} sx={{ display: 'flex', gap: 0.75, alignItems: 'center', pb: 0.75 }}>
          <Box sx={{ width: 105, display: 'flex' }}>
            <Typed label="Name of the measure" value={measure.name} isSound={isGivenName} onChange={(name) => changeMeasure(i, { name })} />
          </Box>
          =
          <Select
            size="small"
            value={measure.aggregate}
            onChange={(event) => {
              const aggregate = event.target.value as AggregateName;
              const argument =
                measure.argument !== ''
                  ? measure.argument
                  : takesOf(aggregate) === 'condition'
                    ? (fields[0]?.path ?? '@.id')
                    : (numbers[0] ?? fields[0]?.path ?? '@.id');
              changeMeasure(i, { aggregate, argument });
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
          {takesOf(measure.aggregate) !== 'nothing' && (
            <Typed
              label="Of what"
              value={measure.argument}
              list="group-fields"
              isSound={isValue}
              onChange={(argument) => changeMeasure(i, { argument })}
            />
          )}
          {takesOf(measure.aggregate) === 'value and percentage' && (
            <Box sx={{ width: 60, display: 'flex' }}>
              <Typed
                label="Percentage"
                value={measure.percentage}
                isSound={isValue}
                onChange={(percentage) => changeMeasure(i, { percentage })}
              />
            </Box>
          )}
          where
          <Typed label="Only rows" value={measure.where} isSound={isConditionOrNone} onChange={(where) => changeMeasure(i, { where })} />
          <RemoveButton
            label="Remove the measure"
            onClick={() =>
              write(
                keys,
                measures.filter((_, k) => k !== i),
              )
            }
          />
        </Box>
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
