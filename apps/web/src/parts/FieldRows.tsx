import Box from '@mui/material/Box';
import type { Field } from '@zesty-sieve/contract';
import { codeFont } from '../app/theme.ts';
import { GridHead, GridRow } from './Grid.tsx';
import { count, percent } from './numbers.ts';

export const fieldRowHeight = 38;
const columns = [
  { id: 'field', head: 'field', width: 'minmax(180px, 1.3fr)' },
  { id: 'types', head: 'types', width: 'minmax(130px, 1fr)' },
  { id: 'presence', head: 'present in', width: '130px' },
  { id: 'values', head: 'values', width: 'minmax(190px, 1.6fr)' },
] as const;
const look = { gap: 2, indent: 2.5 };

/** The heads of the columns in which fields are told of. */
export function FieldHeads() {
  return <GridHead columns={columns} look={look} isSticky />;
}

/** What a row tells of a field. */
type ToldField = Pick<Field, 'path' | 'types' | 'presence' | 'top' | 'least' | 'greatest' | 'example' | 'unit' | 'oddities'>;

interface FieldRowProps {
  readonly field: ToldField;
  /** What has happened to the field, as a sign before it. */
  readonly mark?: { readonly sign: string; readonly means: string } | undefined;
  readonly isChosen?: boolean;
  readonly onChoose?: () => void;
}

/** A field with its types, how often it is there, and what its values are like. */
export function FieldRow({ field, mark, isChosen, onChoose }: FieldRowProps) {
  const values = valuesText(field);
  return (
    <GridRow
      columns={columns}
      look={look}
      onClick={onChoose}
      sx={{ height: fieldRowHeight, fontSize: 12.5, ...(isChosen && { bgcolor: (t) => t.roles.form }) }}
      cells={{
        field: {
          title: field.path,
          sx: { ...inOneLine, fontFamily: codeFont, fontVariantLigatures: 'none', fontSize: 12 },
          shown: <FieldPath field={field} mark={mark} onChoose={onChoose} />,
        },
        types: <Types types={field.types} />,
        presence: { sx: { display: 'flex', alignItems: 'center', gap: 1 }, shown: <Presence share={field.presence} /> },
        values: { title: values, sx: { ...inOneLine, color: 'text.secondary' }, shown: values },
      }}
    />
  );
}

const inOneLine = { overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' } as const;

function Presence({ share }: { readonly share: number }) {
  return (
    <>
      <Box sx={{ width: 54, height: 6, borderRadius: 3, bgcolor: (t) => t.roles.flowSoft, overflow: 'hidden', flex: 'none' }}>
        <Box sx={{ width: `${share * 100}%`, height: '100%', bgcolor: (t) => t.roles.flow }} />
      </Box>
      {percent(share)}
    </>
  );
}

function FieldPath({ field, mark, onChoose }: Omit<FieldRowProps, 'isChosen'>) {
  return (
    <>
      {mark && (
        <Box component="span" title={mark.means} aria-label={mark.means} sx={{ color: 'secondary.main', fontWeight: 800 }}>
          {mark.sign}{' '}
        </Box>
      )}
      {onChoose ? (
        <Box component="button" type="button" sx={{ all: 'unset', cursor: 'pointer', '&:focus-visible': { outline: 'auto' } }}>
          {field.path}
        </Box>
      ) : (
        field.path
      )}
      {field.unit && (
        <Box component="span" sx={{ color: 'text.secondary', fontSize: 11 }}>
          {' '}
          {field.unit}
        </Box>
      )}
      {field.oddities && (
        <Box component="span" title={field.oddities.join('; ')} sx={{ color: 'secondary.main', fontSize: 11, fontWeight: 700 }}>
          {' '}
          !
        </Box>
      )}
    </>
  );
}

/** The types of a field, each with its share where there is more than one. */
function Types({ types }: { types: Field['types'] }) {
  const entries = Object.entries(types).sort((a, b) => b[1] - a[1]);
  const total = entries.reduce((sum, [, n]) => sum + n, 0);
  return (
    <>
      {entries.map(([kind, n], i) => (
        <Box
          key={kind}
          component="span"
          sx={{ color: i > 0 ? 'secondary.main' : 'text.primary' }}
          title={`${count(n)} of ${count(total)} values`}
        >
          {i > 0 && ', '}
          {kind}
          {entries.length > 1 && ` ${percent(n / total)}`}
        </Box>
      ))}
    </>
  );
}

function valuesText({ top, least, greatest, example }: ToldField): string {
  const show = (value: unknown) => (typeof value === 'string' ? value : JSON.stringify(value));
  if (top.length > 0 && top[0]!.count > 1)
    return (
      top
        .slice(0, 6)
        .map(({ value, count: n }) => `${show(value)} (${count(n)})`)
        .join(', ') + (top.length > 6 ? ', …' : '')
    );
  if (least !== undefined) return least === greatest ? show(least) : `${show(least)} to ${show(greatest)}`;
  return example === undefined ? '' : show(example);
}
