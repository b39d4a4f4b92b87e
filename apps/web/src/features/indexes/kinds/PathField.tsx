import TextField from '@mui/material/TextField';

interface PathFieldProps {
  readonly label: string;
  readonly value: string;
  readonly placeholder: string;
  /** What the path leads to. */
  readonly help: string;
  /** What is wrong with the last one that was asked for. */
  readonly wrong: string | undefined;
  readonly onPath: (path: string) => void;
}

/** What an index is on. */
export function PathField({ label, value, placeholder, help, wrong, onPath }: PathFieldProps) {
  return (
    <TextField
      label={label}
      placeholder={placeholder}
      value={value}
      onChange={(event) => onPath(event.target.value)}
      error={wrong !== undefined}
      helperText={wrong ?? help}
      sx={{ flex: 2, minWidth: 260 }}
    />
  );
}
