import Box from '@mui/material/Box';
import Checkbox from '@mui/material/Checkbox';
import {
  describeField,
  readFields,
  writeFields,
  writeRow,
  type CheckedStage,
  type NamedRow,
  type OmitStage,
  type RemoveStep,
  type SelectStage,
} from '@zesty-sieve/core/language';
import { useMemo } from 'react';
import { codeFont } from '../../app/theme.ts';
import { offeredFields } from './fields.ts';
import { frame, RemoveButton, Word } from './parts.tsx';

const words = {
  select: 'keeps only these fields',
  omit: 'keeps all fields but these',
  remove: 'takes these out of each document',
} as const;

export function FieldsForm({
  checked,
  stage,
  onText,
}: {
  checked: CheckedStage;
  stage: SelectStage | OmitStage | RemoveStep;
  onText: (text: string) => void;
}) {
  const fields = useMemo(() => offeredFields(checked.before), [checked.before]);
  const word = stage.kind;
  const { rows: items } = readFields(stage);
  const shown = new Set(fields.map(({ path }) => path));
  const chosen = new Set(items.filter(({ name }) => name === undefined).map(({ text }) => text));
  const others = items.filter(({ text, name }) => name !== undefined || !shown.has(text));
  const write = (rows: readonly NamedRow[]) => {
    const text = writeFields({ kind: word, rows });
    if (text !== undefined) onText(text);
  };
  const toggle = (path: string) => {
    if (chosen.has(path)) write(items.filter(({ text, name }) => name !== undefined || text !== path));
    // A field stands for all inside it: those go when it is chosen.
    else
      write([
        ...items.filter(({ text, name }) => name !== undefined || !(isWithin(text, path) || isWithin(path, text))),
        { text: path, name: undefined },
      ]);
  };
  return (
    <Box sx={frame}>
      <Word word={word}>{words[word]}</Word>
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
          {writeRow({ text, name })}
          <RemoveButton
            label={`Remove ${name ?? text}`}
            onClick={() => write(items.filter((item) => item.text !== text || item.name !== name))}
          />
        </Box>
      ))}
    </Box>
  );
}

/** Whether a field stands inside another, as their paths tell it. */
function isWithin(path: string, outer: string): boolean {
  return path.startsWith(outer) && /^[.[]/.test(path.slice(outer.length));
}
