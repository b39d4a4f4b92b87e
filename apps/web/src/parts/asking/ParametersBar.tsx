import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { codeFont } from '../../app/theme.ts';

/** An input for every :name of the text. What reads as JSON is taken as such, all else as text. */
export function ParametersBar({
  names,
  parameters,
  onChange,
}: {
  names: readonly string[];
  parameters: Readonly<Record<string, string>>;
  onChange: (typed: Record<string, string>) => void;
}) {
  if (names.length === 0) return null;
  const missing = names.filter((name) => (parameters[name] ?? '').trim() === '');
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
      {names.map((name) => (
        <Box component="label" key={name} sx={{ display: 'flex', alignItems: 'center', gap: 0.75 }}>
          <Box component="code" sx={{ fontSize: 12, color: (t) => t.roles.index, fontWeight: 600 }}>
            :{name}
          </Box>
          <TextField
            value={parameters[name] ?? ''}
            onChange={(event) => onChange({ [name]: event.target.value })}
            sx={{ width: 110, '& input': { py: '4px', fontFamily: codeFont, fontSize: 12.5 }, bgcolor: 'background.paper' }}
            slotProps={{ htmlInput: { 'aria-label': name } }}
          />
        </Box>
      ))}
      {missing.length > 0 && (
        <Box sx={{ fontSize: 12, color: 'secondary.main' }}>
          {missing.length === 1 ? `:${missing[0]} needs a value before this can run.` : 'These need values before this can run.'}
        </Box>
      )}
    </Box>
  );
}
