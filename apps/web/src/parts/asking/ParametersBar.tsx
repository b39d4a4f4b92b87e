import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { codeFont } from '../../app/theme.ts';
import type { OfferedField } from '../form/fields.ts';
import { GivenCondition } from './GivenCondition.tsx';

interface ParametersBarProps {
  readonly names: readonly string[];
  /** Those that stand for conditions, each with the fields that it may ask about. */
  readonly conditions?: ReadonlyMap<string, readonly OfferedField[]>;
  readonly parameters: Readonly<Record<string, string>>;
  readonly onChange: (typed: Record<string, string>) => void;
}

/** An input for every :name of the text. What reads as JSON is taken as such, all else as text; a condition may be left out. */
export function ParametersBar({ names, conditions = new Map(), parameters, onChange }: ParametersBarProps) {
  if (names.length === 0) return null;
  const missing = names.filter((name) => !conditions.has(name) && (parameters[name] ?? '').trim() === '');
  return (
    <Box
      aria-label="Parameters"
      role="group"
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        gap: 1.25,
        alignItems: 'center',
        px: 2,
        py: 1,
        bgcolor: (t) => t.roles.form,
        borderBottom: 1,
        borderColor: 'divider',
      }}
    >
      {names.map((name) => {
        const fields = conditions.get(name);
        const text = parameters[name] ?? '';
        const write = (given: string) => onChange({ [name]: given });
        return (
          <Box key={name} sx={{ display: 'flex', alignItems: 'center', gap: 0.75, ...(fields && { flex: '1 1 280px' }) }}>
            <Box component="label" htmlFor={`parameter-${name}`} sx={{ fontFamily: codeFont, fontSize: 12, color: (t) => t.roles.index, fontWeight: 600 }}>
              :{name}
            </Box>
            {fields ? (
              <GivenCondition name={name} text={text} fields={fields} onText={write} />
            ) : (
              <TextField
                id={`parameter-${name}`}
                value={text}
                onChange={(event) => write(event.target.value)}
                sx={{ width: 110, '& input': { py: '4px', fontFamily: codeFont, fontSize: 12.5 }, bgcolor: 'background.paper' }}
                slotProps={{ htmlInput: { 'aria-label': name } }}
              />
            )}
          </Box>
        );
      })}
      {missing.length > 0 && (
        <Box sx={{ fontSize: 12, color: 'secondary.main' }}>
          {missing.length === 1 ? `:${missing[0]} needs a value before this can run.` : 'These need values before this can run.'}
        </Box>
      )}
    </Box>
  );
} // prettier-ignore
