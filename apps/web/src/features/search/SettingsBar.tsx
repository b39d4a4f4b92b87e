import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import Popover from '@mui/material/Popover';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import { codeFont } from '../../app/theme.ts';
import { LanguageSelect } from '../../parts/LanguageSelect.tsx';
import type { IndexInfo } from '@zesty-sieve/contract';
import { Effort } from './Effort.tsx';
import { servingVectors, type SearchSettings } from './settings.ts';

interface SettingsBarProps {
  readonly collection: string;
  readonly indexes: readonly IndexInfo[];
  readonly settings: SearchSettings;
  readonly texts: readonly string[];
  readonly vectors: readonly string[];
  readonly onChange: (settings: SearchSettings) => void;
}

/** What a search looks at, in a sentence; a press on it changes it. */
export function SettingsBar(props: SettingsBarProps) {
  const { settings } = props;
  const [anchor, setAnchor] = useState<HTMLElement>();
  const { paths, language, vector, vectorWeight, wordsWeight, where, effort } = settings;
  const code = (text: string) => (
    <Box component="code" sx={{ color: (t) => t.roles.path }}>
      {text}
    </Box>
  );
  const times = (weight: number) => (weight === 1 || language === null ? '' : ` ×${weight}`);
  return (
    <Box sx={{ px: 2.5, py: 0.75, display: 'flex', gap: 2.5, alignItems: 'center', fontSize: 12.5, color: 'text.secondary', borderBottom: 1, borderColor: 'divider', flexWrap: 'wrap' }}>
      {paths.length > 0 && (
        <span>
          by words in {code(paths.map(({ path, weight }) => path + times(weight)).join(', '))} {language ?? 'as they stand'}
          {wordsWeight !== 1 && ` weight ${wordsWeight}`}
        </span>
      )}
      {vector !== null && (
        <span>
          by meaning of {code(vector)}
          {vectorWeight !== 1 && ` weight ${vectorWeight}`}
          {effort !== null && `, about: effort ${effort}`}
        </span>
      )}
      {where.trim() !== '' && <span>only where {code(where)}</span>}
      <Button size="small" onClick={(event) => setAnchor(event.currentTarget)} sx={{ color: 'text.primary', py: 0 }}>
        Change
      </Button>
      <Popover open={anchor !== undefined} anchorEl={anchor ?? null} onClose={() => setAnchor(undefined)} anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}>
        <Settings {...props} onClose={() => setAnchor(undefined)} />
      </Popover>
    </Box>
  );
} // prettier-ignore

function Settings({ collection, indexes, settings, texts, vectors, onChange, onClose }: SettingsBarProps & { readonly onClose: () => void }) {
  const [draft, setDraft] = useState(settings);
  const known = [...new Set([...texts, ...draft.paths.map(({ path }) => path)])];
  const weightOf = (path: string) => draft.paths.find((one) => one.path === path)?.weight;
  const setPath = (path: string, weight: number | undefined) =>
    setDraft({ ...draft, paths: known.flatMap((one) => (one === path ? (weight === undefined ? [] : [{ path, weight }]) : draft.paths.filter((own) => own.path === one))) }); // prettier-ignore
  const number = (label: string, value: number, set: (value: number) => void) => (
    <TextField
      type="number"
      label={label}
      defaultValue={value}
      onChange={(event) => {
        const next = Number(event.target.value);
        if (event.target.value !== '' && next >= 0) set(next);
      }}
      slotProps={{ htmlInput: { min: 0, step: 0.5 } }}
      sx={{ width: 96 }}
    />
  );
  return (
    <Box
      component="form"
      aria-label="What is searched"
      onSubmit={(event) => {
        event.preventDefault();
        onChange(draft);
        onClose();
      }}
      sx={{ p: 2.5, display: 'grid', gap: 2, width: 560 }}
    >
      <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, display: 'grid', gap: 1 }}>
        <Box component="legend" sx={{ fontWeight: 650, mb: 0.5 }}>
          By words
        </Box>
        {known.length === 0 && <Box sx={{ color: 'text.secondary' }}>There are no texts of some length here.</Box>}
        {known.map((path) => (
          <Box key={path} sx={{ display: 'flex', alignItems: 'center', justifyContent: 'space-between' }}>
            <FormControlLabel
              control={<Checkbox size="small" checked={weightOf(path) !== undefined} onChange={(event) => setPath(path, event.target.checked ? 1 : undefined)} />}
              label={<code>{path}</code>}
            />
            {draft.language !== null && weightOf(path) !== undefined && number('Weight', weightOf(path)!, (weight) => setPath(path, weight))}
          </Box>
        ))}
        <Box sx={{ display: 'flex', gap: 1.5 }}>
                    <LanguageSelect value={draft.language} onLanguage={(language) => setDraft({ ...draft, language })} sx={{ flex: 1 }} />
          {number('In the fusion', draft.wordsWeight, (wordsWeight) => setDraft({ ...draft, wordsWeight }))}
        </Box>
      </Box>
      <Box component="fieldset" sx={{ border: 0, p: 0, m: 0, display: 'grid', gap: 1 }}>
        <Box component="legend" sx={{ fontWeight: 650, mb: 0.5 }}>
          By meaning
        </Box>
        <Box sx={{ display: 'flex', gap: 1.5 }}>
          <TextField select label="Vectors" value={draft.vector ?? ''} onChange={(event) => setDraft({ ...draft, vector: event.target.value === '' ? null : event.target.value })} sx={{ flex: 1 }}>
            <MenuItem value="">none: by words alone</MenuItem>
            {vectors.map((one) => (
              <MenuItem key={one} value={one}>
                <code>{one}</code>
              </MenuItem>
            ))}
          </TextField>
          {draft.vector !== null && number('In the fusion', draft.vectorWeight, (vectorWeight) => setDraft({ ...draft, vectorWeight }))}
        </Box>
        {draft.vector !== null && (
          <Effort collection={collection} index={servingVectors(indexes, draft.vector)} effort={draft.effort} onEffort={(effort) => setDraft({ ...draft, effort })} />
        )}
      </Box>
      <TextField
        label="Only where"
        placeholder="@.severity >= 2"
        value={draft.where}
        onChange={(event) => setDraft({ ...draft, where: event.target.value })}
        helperText="A condition of the notation, as on the Bench"
        slotProps={{ htmlInput: { style: { fontFamily: codeFont, fontSize: 12.5 } } }}
      />
      <Box sx={{ display: 'flex', gap: 1, justifyContent: 'flex-end' }}>
        <Button onClick={onClose} sx={{ color: 'text.primary' }}>
          Cancel
        </Button>
        <Button type="submit" variant="contained" disabled={draft.paths.length === 0 && draft.vector === null}>
          Use these
        </Button>
      </Box>
    </Box>
  );
} // prettier-ignore
