import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import CloseIcon from '@mui/icons-material/Close';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import { useEffect, useState, type ReactNode } from 'react';
import { codeFont } from '../../app/theme.ts';

export const frame = { px: 2, py: 1.5, overflow: 'auto', flex: 1, minHeight: 0 } as const;
/** The look of an input that holds code. */
export const codeInput = {
  '& .MuiInputBase-root': {
    fontFamily: codeFont,
    fontVariantLigatures: 'none',
    fontSize: 12,
    bgcolor: 'background.paper',
    py: '1px !important',
  },
  '& .MuiInputBase-input': { py: '5px !important' },
} as const;

export function Hint({ children }: { children: ReactNode }) {
  return <Box sx={{ p: 2, color: 'text.secondary' }}>{children}</Box>;
}

export function Word({ word, children }: { word: string; children?: ReactNode }) {
  return (
    <Box sx={{ fontSize: 13, pb: 1 }}>
      <Box component="code" sx={{ color: 'secondary.main', fontWeight: 700, pr: 0.75 }}>
        {word}
      </Box>
      <b>{children}</b>
    </Box>
  );
}

/** A text that is written to the pipeline when it is sound and left. */
export function Typed({
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
      sx={{ ...codeInput, flex: 1, minWidth: 120 }}
      slotProps={{ htmlInput: { 'aria-label': label, list } }}
    />
  );
}

export function AddButton({ children, onClick }: { children: string; onClick: () => void }) {
  return (
    <Button size="small" onClick={onClick} sx={{ fontSize: 12, fontWeight: 450, color: 'text.secondary', px: 1, py: 0 }}>
      {children}
    </Button>
  );
}

export function RemoveButton({ label, onClick }: { label: string; onClick: () => void }) {
  return (
    <IconButton size="small" aria-label={label} title={label} onClick={onClick} sx={{ p: 0.25 }}>
      <CloseIcon sx={{ fontSize: 15 }} />
    </IconButton>
  );
}
