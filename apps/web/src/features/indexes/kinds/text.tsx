import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { textLanguage } from '@zesty-sieve/contract';
import { splitKeys } from '../../../parts/keys.ts';
import type { IndexKindView } from './kind.ts';

interface TextDraft {
  readonly paths: string;
  /** Empty for none. */
  readonly language: string;
}

/** Words of texts. */
export const text: IndexKindView<'text', TextDraft> = {
  title: 'Text',
  doc: 'Words of texts: which documents mention them, and which answer them best.',
  empty: { paths: '', language: 'english' },
  request: ({ paths, language }) => {
    const known = textLanguage.safeParse(language);
    return splitKeys(paths).length === 0
      ? undefined
      : { kind: 'text', keys: splitKeys(paths), ...(known.success && { language: known.data }) };
  },
  Fields: ({ draft, wrong, onChange }) => (
    <>
      <TextField
        label="Paths"
        placeholder="@.headline, @.text"
        value={draft.paths}
        onChange={(event) => onChange({ ...draft, paths: event.target.value })}
        error={wrong !== undefined}
        helperText={wrong ?? 'Each to a text, or to an array of texts'}
        sx={{ flex: 2, minWidth: 280 }}
      />
      <TextField
        select
        label="Language"
        value={draft.language}
        onChange={(event) => onChange({ ...draft, language: event.target.value })}
        helperText="Of its stems and stop words"
        sx={{ minWidth: 170 }}
      >
        <MenuItem value="">none: words as they stand</MenuItem>
        {textLanguage.options.map((one) => (
          <MenuItem key={one} value={one}>
            {one}
          </MenuItem>
        ))}
      </TextField>
    </>
  ),
  heading: ({ keys }) => keys.join(', '),
  facts: ({ language }) => ['text', language ?? 'no language'],
  again: ({ keys, language }) => ({ kind: 'text', keys, ...(language !== null && { language }) }),
};
