import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { Publication, PublishedField, PublishedParameter, SavedPipeline } from '@zesty-sieve/contract';
import { describedFor } from './draft.ts';
import { useFieldTypes } from './useFieldTypes.ts';

interface ParameterSettingsProps {
  readonly draft: Publication;
  readonly saved: SavedPipeline | undefined;
  readonly onChange: (parameters: PublishedParameter[]) => void;
}

/** What callers give: a row for each parameter that is described; those of the pipeline that are not have the value that was saved. */
export function ParameterSettings({ draft: { parameters }, saved, onChange }: ParameterSettingsProps) {
  const others = saved === undefined ? [] : describedFor(saved).filter(({ name }) => !parameters.some((one) => one.name === name));
  const change = (at: number, changed: PublishedParameter) => onChange(parameters.map((one, i) => (i === at ? changed : one)));
  return (
    <Box component="fieldset" sx={{ m: 0, border: 1, borderColor: 'divider', borderRadius: 1.5, p: 1.5, display: 'flex', flexDirection: 'column', gap: 1.5 }}>
      <Box component="legend" sx={{ px: 0.75, fontWeight: 700, fontSize: 13 }}>What callers give</Box>
      {parameters.length === 0 && <Box sx={{ color: 'text.secondary' }}>Nothing: every call has the same answer.</Box>}
      {parameters.map((parameter, at) => (
        <ParameterRow key={parameter.name} parameter={parameter} pipeline={saved?.pipeline} onChange={(changed) => change(at, changed)} onRemove={() => onChange(parameters.filter((_, i) => i !== at))} />
      ))}
      <Box sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap' }}>
        {others.map((other) => (
          <Button key={other.name} onClick={() => onChange([...parameters, other])}>+ :{other.name}</Button>
        ))}
      </Box>
    </Box>
  );
} // prettier-ignore

const listOf = (values: readonly unknown[] | undefined): string => (values ?? []).map(String).join(', ');
const asKind = (text: string, kind: PublishedParameter['kind'], of: PublishedParameter['of']) =>
  kind === 'number' || of === 'number' ? Number(text) : kind === 'boolean' ? text === 'true' : text;
const split = (text: string): string[] => text.split(',').map((one) => one.trim()).filter((one) => one !== ''); // prettier-ignore
const pathOf = (field: string | PublishedField): string => (typeof field === 'string' ? field : field.path);

/** A row without what is not said of it. */
function said(parameter: PublishedParameter): PublishedParameter {
  return Object.fromEntries(Object.entries(parameter).filter(([, value]) => value !== undefined && value !== '' && !(Array.isArray(value) && value.length === 0))) as PublishedParameter; // prettier-ignore
}

function ParameterRow({ parameter, pipeline, onChange, onRemove }: { readonly parameter: PublishedParameter; readonly pipeline: string | undefined; readonly onChange: (changed: PublishedParameter) => void; readonly onRemove: () => void }) {
  const { name, kind, of, label = '', default: usual, choices, least, greatest, fields = [] } = parameter;
  const set = (changes: Partial<PublishedParameter>) => onChange(said({ ...parameter, ...changes }));
  const isCondition = kind === 'condition';
  const typeOf = useFieldTypes(isCondition ? pipeline : undefined, name);
  const fieldAt = (path: string) => {
    const type = typeOf(path);
    return fields.find((one) => pathOf(one) === path) ?? (type === undefined ? path : { path, type });
  };
  const small = { size: 'small' as const };
  return (
    <Box role="group" aria-label={`Parameter ${name}`} sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, alignItems: 'center', '& > .MuiTextField-root': { flex: '1 1 92px' } }}>
      <Box component="code" sx={{ width: 76, fontWeight: 700, color: (t) => t.roles.index, overflow: 'hidden', textOverflow: 'ellipsis' }}>:{name}</Box>
      <TextField select label="Kind" {...small} disabled={isCondition} value={kind} onChange={(event) => onChange({ name, kind: event.target.value as PublishedParameter['kind'], ...(label !== '' && { label }) })}>
        {(isCondition ? ['condition'] : ['text', 'number', 'boolean', 'date', 'list']).map((one) => (
          <MenuItem key={one} value={one}>{one}</MenuItem>
        ))}
      </TextField>
      <TextField label="Label" {...small} value={label} onChange={(event) => set({ label: event.target.value })} />
      {isCondition ? (
        <TextField label="Fields that may be asked about" {...small} sx={{ flexGrow: '4 !important' }} defaultValue={fields.map(pathOf).join(', ')} onBlur={(event) => set({ fields: split(event.target.value).map(fieldAt) })} />
      ) : (
        <>
          <TextField label="Where none is given" {...small} defaultValue={usual === undefined ? '' : Array.isArray(usual) ? listOf(usual) : String(usual)} onBlur={(event) => set({ default: event.target.value === '' ? undefined : kind === 'list' ? split(event.target.value).map((one) => asKind(one, kind, of)) : asKind(event.target.value, kind, of) })} />
          {kind !== 'boolean' && <TextField label="Choices" {...small} defaultValue={listOf(choices)} onBlur={(event) => set({ choices: split(event.target.value).map((one) => asKind(one, kind, of)) })} />}
          {(kind === 'number' || kind === 'date') && <TextField label="Least" {...small} defaultValue={least === undefined ? '' : String(least)} onBlur={(event) => set({ least: event.target.value === '' ? undefined : asKind(event.target.value, kind, of) })} />}
          {(kind === 'number' || kind === 'date') && <TextField label="Greatest" {...small} defaultValue={greatest === undefined ? '' : String(greatest)} onBlur={(event) => set({ greatest: event.target.value === '' ? undefined : asKind(event.target.value, kind, of) })} />}
        </>
      )}
      <Button color="error" onClick={onRemove} aria-label={`Take no ${name} from callers`}>Remove</Button>
    </Box>
  );
} // prettier-ignore
