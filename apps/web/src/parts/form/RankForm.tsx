import Box from '@mui/material/Box';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import {
  parseValueText,
  readRank,
  writeRank,
  type CheckedStage,
  type RankForm as Ranking,
  type RankKind,
  type RankStage,
} from '@zesty-sieve/core/language';
import { useMemo } from 'react';
import { isGivenName } from './ComputeForm.tsx';
import { offeredFields } from './fields.ts';
import { OrderKeys } from './OrderForm.tsx';
import { AddButton, frame, RemoveButton, Typed, Word } from './parts.tsx';

const kinds: readonly (readonly [RankKind, string])[] = [
  ['rank', 'rank 1, 2, 2, 4'],
  ['denseRank', 'dense 1, 2, 2, 3'],
  ['rowNumber', 'number 1, 2, 3, 4'],
];

/** How rows are ranked: in which parts, by which keys, and under what name. */
export function RankForm({ checked, stage, onText }: { checked: CheckedStage; stage: RankStage; onText: (text: string) => void }) {
  const fields = useMemo(() => offeredFields(checked.before), [checked.before]);
  const now = readRank(stage);
  const write = (next: Partial<Ranking>) => {
    const text = writeRank({ ...now, ...next });
    if (text !== undefined) onText(text);
  };
  return (
    <Box sx={frame}>
      <Word word="rank">puts a place into each row; the rows stay where they are</Word>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 1, flexWrap: 'wrap' }}>
        <ToggleButtonGroup
          value={now.kind}
          onChange={(_event, kind: RankKind | null) => kind && write({ kind })}
          aria-label="How ties count"
        >
          {kinds.map(([kind, label]) => (
            <ToggleButton key={kind} value={kind}>
              {label}
            </ToggleButton>
          ))}
        </ToggleButtonGroup>
        as
        <Box sx={{ width: 110, display: 'flex' }}>
          <Typed label="Name of the rank" value={now.name} isSound={isGivenName} onChange={(name) => write({ name })} />
        </Box>
      </Box>
      {now.partition.map((text, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 1, alignItems: 'center', pb: 0.75 }}>
          <Box sx={{ fontSize: 12.5, width: 90 }}>{i === 0 ? 'apart for each' : 'and'}</Box>
          <Typed
            label="Part"
            value={text}
            list="order-fields"
            isSound={(typed) => 'expression' in parseValueText(typed)}
            onChange={(typed) => write({ partition: now.partition.map((old, k) => (k === i ? typed : old)) })}
          />
          <RemoveButton label="Remove the part" onClick={() => write({ partition: now.partition.filter((_, k) => k !== i) })} />
        </Box>
      ))}
      <AddButton
        onClick={() => write({ partition: [...now.partition, fields.find(({ path }) => !now.partition.includes(path))?.path ?? '@.id'] })}
      >
        + apart for each
      </AddButton>
      <OrderKeys checked={checked} keys={now.keys} onKeys={(keys) => write({ keys })} />
    </Box>
  );
}
