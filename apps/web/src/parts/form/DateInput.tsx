import EventIcon from '@mui/icons-material/Event';
import IconButton from '@mui/material/IconButton';
import InputAdornment from '@mui/material/InputAdornment';
import Popover from '@mui/material/Popover';
import TextField from '@mui/material/TextField';
import { useEffect, useState } from 'react';
import { later } from '../later.tsx';
import { shownValue, valueExpression, type DateForm } from './fields.ts';
import { codeInput } from './parts.tsx';

const Calendar = later(async () => (await import('./Calendar.tsx')).Calendar);

interface DateInputProps {
  readonly label?: string;
  /** The text of an expression. */
  readonly value: string;
  readonly dated: DateForm;
  readonly onChange: (expression: string) => void;
}

/** A date as text, typed or picked from a calendar. A parameter or a function can be typed instead. */
export function DateInput({ label = 'Value', value, dated, onChange }: DateInputProps) {
  const shown = shownValue(value === 'null' ? '' : value);
  const [typed, setTyped] = useState(shown);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  useEffect(() => setTyped(shown), [shown]);
  const write = (text: string) => text !== shown && onChange(valueExpression(text, ['text']));
  return (
    <>
      <TextField
        value={typed}
        placeholder={dated.kind === 'date' ? '2026-01-31' : '2026-01-31T08:00:00Z'}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={() => write(typed)}
        onKeyDown={(event) => event.key === 'Enter' && write(typed)}
        sx={{ ...codeInput, flex: 1 }}
        slotProps={{
          htmlInput: { 'aria-label': label },
          input: {
            endAdornment: (
              <InputAdornment position="end">
                <IconButton
                  size="small"
                  aria-label={`Pick a date for ${label.toLowerCase()}`}
                  onClick={(event) => setAnchor(event.currentTarget)}
                  sx={{ p: 0.25 }}
                >
                  <EventIcon sx={{ fontSize: 15 }} />
                </IconButton>
              </InputAdornment>
            ),
          },
        }}
      />
      <Popover
        open={anchor !== null}
        anchorEl={anchor}
        onClose={() => setAnchor(null)}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'right' }}
      >
        {anchor !== null && (
          <Calendar
            value={shown === '' ? dated.latest : shown}
            onPick={(day) => {
              setAnchor(null);
              write(day + (dated.kind === 'date' ? '' : 'T00:00:00Z'));
            }}
          />
        )}
      </Popover>
    </>
  );
}
