import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField, { type TextFieldProps } from '@mui/material/TextField';
import { useController, type Control, type FieldPath, type FieldValues } from 'react-hook-form';

interface Bound<T extends FieldValues, V> {
  readonly control: Control<T, unknown, V>;
  readonly name: FieldPath<T>;
}

/** A text of a form, with what is wrong with it in the place of its help; `onChosen` is told each value after the form has it. */
export function FormField<T extends FieldValues, V>({
  control,
  name,
  error,
  helperText,
  onChosen,
  ...others
}: Bound<T, V> & Omit<TextFieldProps, 'name'> & { readonly onChosen?: (value: string) => void }) {
  const { field, fieldState } = useController({ control, name });
  const { ref, value, ...bound } = field;
  return (
    <TextField
      {...others}
      {...bound}
      value={value ?? ''}
      onChange={(event) => {
        bound.onChange(event);
        onChosen?.(event.target.value);
      }}
      inputRef={ref}
      error={error === true || fieldState.error !== undefined}
      helperText={fieldState.error?.message ?? helperText}
    />
  );
}

/** A choice of a form that is made or not. */
export function FormCheck<T extends FieldValues, V>({ control, name, label }: Bound<T, V> & { readonly label: string }) {
  const { field } = useController({ control, name });
  return (
    <FormControlLabel control={<Checkbox checked={field.value === true} onChange={field.onChange} onBlur={field.onBlur} />} label={label} />
  );
}
