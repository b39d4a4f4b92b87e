import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Popover from '@mui/material/Popover';
import TextField from '@mui/material/TextField';
import { canonicalCondition, conditionForm, moveCondition, parseConditionText, type ConditionForm } from '@zesty-sieve/core/language';
import { useEffect, useState } from 'react';
import { codeFont } from '../../app/theme.ts';
import { ConditionGroup } from '../form/ConditionRows.tsx';
import { DragArea } from '../form/dragging.tsx';
import type { OfferedField } from '../form/fields.ts';

interface GivenConditionProps {
  readonly name: string;
  readonly text: string;
  readonly fields: readonly OfferedField[];
  readonly onText: (text: string) => void;
}

type Group = ConditionForm & { kind: 'group' };
const empty: Group = { kind: 'group', mode: 'all', items: [] };

function formOf(text: string): Group {
  const read = text.trim() === '' ? undefined : parseConditionText(text);
  return read !== undefined && 'expression' in read ? conditionForm(read.expression) : empty;
}

/** A condition as the value of a parameter: written out, or as rows. Left empty, it holds for every row. */
export function GivenCondition({ name, text, fields, onText }: GivenConditionProps) {
  const [form, setForm] = useState(() => formOf(text));
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  useEffect(() => {
    setForm((now) => (canonicalCondition(now) === text ? now : formOf(text)));
  }, [text]);
  const change = (next: ConditionForm) => {
    const group: Group = next.kind === 'group' ? next : { ...empty, items: [next] };
    setForm(group);
    const written = group.items.length === 0 ? '' : canonicalCondition(group);
    if (written !== undefined && written !== text) onText(written);
  };
  const read = text.trim() === '' ? undefined : parseConditionText(text);
  const wrong = read !== undefined && 'finding' in read ? read.finding.message : undefined;
  return (
    <>
      <TextField
        id={`parameter-${name}`}
        value={text}
        onChange={(event) => onText(event.target.value)}
        placeholder="not given: it holds for every row"
        error={wrong !== undefined}
        helperText={wrong}
        sx={{ flex: 1, minWidth: 160, '& input': { py: '4px', fontFamily: codeFont, fontSize: 12.5 }, bgcolor: 'background.paper' }}
        slotProps={{ htmlInput: { 'aria-label': name } }}
      />
      <Button size="small" onClick={(event) => setAnchor(event.currentTarget)} aria-haspopup="dialog">
        As rows
      </Button>
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
        transformOrigin={{ vertical: 'top', horizontal: 'right' }}
        slotProps={{ paper: { 'aria-label': `The condition :${name}`, role: 'dialog', sx: { p: 2, width: 'min(680px, 94vw)', bgcolor: (t) => t.roles.form } } }}
      >
        <Box sx={{ fontSize: 13 }}>
          <DragArea onMove={(from, group, at) => change(moveCondition(form, from, group, at))}>
            <ConditionGroup lead="keeps a row when" form={form} place={[]} onChange={change} fields={fields} counts={new Map()} reaching={undefined} before="" />
          </DragArea>
        </Box>
      </Popover>
    </>
  );
} // prettier-ignore
