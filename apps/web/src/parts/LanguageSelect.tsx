import MenuItem from '@mui/material/MenuItem';
import TextField, { type TextFieldProps } from '@mui/material/TextField';
import { textLanguage } from '@zesty-sieve/contract';
import type { z } from 'zod';

type Language = z.infer<typeof textLanguage>;
interface LanguageSelectProps extends Pick<TextFieldProps, 'helperText' | 'sx'> {
  readonly value: Language | null;
  readonly onLanguage: (language: Language | null) => void;
}

/** The language of words: its stems and stop words, or none. */
export function LanguageSelect({ value, onLanguage, ...field }: LanguageSelectProps) {
  return (
    <TextField
      select
      label="Language"
      value={value ?? ''}
      onChange={(event) => onLanguage(textLanguage.safeParse(event.target.value).data ?? null)}
      {...field}
    >
      <MenuItem value="">none: words as they stand</MenuItem>
      {textLanguage.options.map((one) => (
        <MenuItem key={one} value={one}>
          {one}
        </MenuItem>
      ))}
    </TextField>
  );
}
