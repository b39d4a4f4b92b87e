import Box from '@mui/material/Box';
import type { Field } from '@zesty-sieve/contract';
import { codeFont } from '../app/theme.ts';
import { count, percent } from './numbers.ts';

export const fieldRowHeight = 38;
const grid = {
  display: 'grid',
  gridTemplateColumns: 'minmax(180px, 1.3fr) minmax(130px, 1fr) 130px minmax(190px, 1.6fr)',
  columnGap: 2,
  px: 2.5,
  alignItems: 'center',
} as const;

/** The heads of the columns in which fields are told of. */
export function FieldHeads() {
  return (
    <Box
      role="row"
      sx={{
        ...grid,
        height: 30,
        position: 'sticky',
        top: 0,
        zIndex: 1,
        bgcolor: 'background.paper',
        borderBottom: 1,
        borderColor: 'divider',
        fontSize: 11.5,
        fontWeight: 600,
        color: 'text.secondary',
      }}
    >
      <span role="columnheader">field</span>
      <span role="columnheader">types</span>
      <span role="columnheader">present in</span>
      <span role="columnheader">values</span>
    </Box>
  );
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
    <Box
      role="row"
      onClick={onChoose}
      sx={{
        ...grid,
        height: fieldRowHeight,
        borderBottom: 1,
        borderColor: 'divider',
        fontSize: 12.5,
        ...(onChoose && { cursor: 'pointer', '&:hover': { bgcolor: (t) => t.roles.form } }),
        ...(isChosen && { bgcolor: (t) => t.roles.form }),
      }}
    >
      <Box
        role="cell"
        title={field.path}
        sx={{
          fontFamily: codeFont,
          fontVariantLigatures: 'none',
          fontSize: 12,
          overflow: 'hidden',
          textOverflow: 'ellipsis',
          whiteSpace: 'nowrap',
        }}
      >
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
      </Box>
      <Box role="cell">
        <Types types={field.types} />
      </Box>
      <Box role="cell" sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <Box sx={{ width: 54, height: 6, borderRadius: 3, bgcolor: (t) => t.roles.flowSoft, overflow: 'hidden', flex: 'none' }}>
          <Box sx={{ width: `${field.presence * 100}%`, height: '100%', bgcolor: (t) => t.roles.flow }} />
        </Box>
        {percent(field.presence)}
      </Box>
      <Box role="cell" title={values} sx={{ color: 'text.secondary', overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
        {values}
      </Box>
    </Box>
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
