import { skipToken } from '@reduxjs/toolkit/query/react';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { fieldNames, type CheckedStage, type Expression, type JoinStage } from '@zesty-sieve/core/language';
import { useMemo, useState } from 'react';
import { useCollectionsQuery } from '../../../api/collections.ts';
import { useShapeQuery } from '../../../api/shapes.ts';
import { codeFont } from '../../../app/theme.ts';
import { offeredFields } from '../fields.ts';

/** Two clicks pair two fields: one of the row, one of the partner. */
export function Pairing({
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
    // What is paired already is read before anything is chosen, too.
    ...(isChosen && { '&.Mui-disabled': { color: 'background.paper' } }),
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
