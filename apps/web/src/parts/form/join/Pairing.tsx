import { skipToken } from '@reduxjs/toolkit/query/react';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { fieldNames, pathText, type CheckedStage, type Expression, type JoinStage } from '@zesty-sieve/core/language';
import { useMemo, useState } from 'react';
import { useCollectionsQuery } from '../../../api/collections.ts';
import { useShapeQuery } from '../../../api/shapes.ts';
import { codeFont } from '../../../app/theme.ts';
import { count } from '../../numbers.ts';
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
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 2, pt: 0.5, pb: 1 }}>
      <Side
        label="Fields of the row"
        says={left === null ? 'pair a field of the row' : `pair ${left}`}
        paths={fields.map(({ path }) => path)}
        isChosen={(path) => path === left}
        onChoose={(path) => setLeft(left === path ? null : path)}
      />
      <Side
        label="Fields of the partner"
        says={`with one of ${stage.source}`}
        paths={partners.map(({ path }) => path)}
        isOff={left === null}
        shown={(path) => path.replace(/^@\.?/, '')}
        isChosen={(path) => used.has(path)}
        onChoose={(path) => {
          onPair(`${partner}${path.slice(1)} == ${left}`);
          setLeft(null);
        }}
      />
    </Box>
  );
}

/** So many fields stand there at once; of more, those that are looked for. */
const mostShown = 24;

interface SideProps {
  readonly label: string;
  readonly says: string;
  readonly paths: readonly string[];
  readonly isOff?: boolean;
  readonly shown?: (path: string) => string;
  readonly isChosen: (path: string) => boolean;
  readonly onChoose: (path: string) => void;
}

function Side({ label, says, paths, isOff = false, shown = (path) => path, isChosen, onChoose }: SideProps) {
  const [sought, setSought] = useState('');
  const found = paths.filter((path) => path.toLowerCase().includes(sought.trim().toLowerCase()));
  return (
    <Box role="group" aria-label={label}>
      <Box sx={{ fontSize: 12, color: 'text.secondary', pb: 0.25 }}>{says}</Box>
      {paths.length > mostShown && (
        <TextField
          size="small"
          placeholder={`find one of ${count(paths.length)}`}
          value={sought}
          onChange={(event) => setSought(event.target.value)}
          slotProps={{ htmlInput: { 'aria-label': `Find among the ${label.toLowerCase()}` } }}
          sx={{ pb: 0.5, '& input': { py: 0.25, fontSize: 12 } }}
        />
      )}
      <Box>
        {found.slice(0, mostShown).map((path) => (
          <Button
            key={path}
            size="small"
            disabled={isOff}
            aria-pressed={isChosen(path)}
            onClick={() => onChoose(path)}
            sx={chip(isChosen(path))}
          >
            {shown(path)}
          </Button>
        ))}
        {found.length > mostShown && <Box sx={{ fontSize: 12, color: 'text.secondary' }}>and {count(found.length - mostShown)} more</Box>}
        {found.length === 0 && sought !== '' && <Box sx={{ fontSize: 12, color: 'text.secondary' }}>none is called so</Box>}
      </Box>
    </Box>
  );
}

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

function fieldNamesOf(condition: Expression): Set<string> {
  const names = new Set<string>();
  const parts = condition.kind === 'and' ? condition.operands : [condition];
  for (const part of parts) {
    if (part.kind !== 'comparison') continue;
    for (const side of [part.left, part.right]) {
      if (side.kind === 'path' && side.root.kind === 'partner') names.add(pathText(fieldNames(side) ?? []));
    }
  }
  return names;
}
