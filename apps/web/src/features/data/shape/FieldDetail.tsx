import { zodResolver } from '@hookform/resolvers/zod';
import CloseIcon from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import { fieldNote, type CollectionInfo, type Field } from '@zesty-sieve/contract';
import { useSnackbar } from 'notistack';
import { useForm } from 'react-hook-form';
import { FormField } from '../../../parts/FormField.tsx';
import { useNavigate } from 'react-router';
import { problemText } from '../../../api/problems.ts';
import { useSetFieldNoteMutation } from '../../../api/shapes.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { codeFont } from '../../../app/theme.ts';
import { bytes, count, counted, percent } from '../../../parts/numbers.ts';
import { opened } from '../../../state/bench/benchSlice.ts';

const decimals = new Intl.NumberFormat('en', { maximumFractionDigits: 1 });

/** Everything that is known of one field, with its note and its unit. */
export function FieldDetail({
  collection,
  field,
  documents,
  onClose,
}: {
  collection: CollectionInfo;
  field: Field;
  documents: number;
  onClose: () => void;
}) {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const ask = (condition: string) => {
    dispatch(opened({ text: `from ${collection.name}\nwhere ${condition}\n` }));
    void navigate('/bench');
  };
  const { types, top, distinct, whole, textLengths, arrayLengths, histogram } = field;
  const total = Object.values(types).reduce((sum, n) => sum + n, 0);
  const isOfRow = field.steps.every((step) => 'field' in step);
  return (
    <Box
      component="aside"
      aria-label={`Field ${field.path}`}
      sx={{
        width: 330,
        flex: 'none',
        overflow: 'auto',
        borderLeft: 1,
        borderTop: 1,
        borderColor: 'divider',
        bgcolor: (t) => t.roles.form,
        p: 2,
        fontSize: 12.5,
      }}
    >
      <Box sx={{ display: 'flex', alignItems: 'flex-start', gap: 1, pb: 1 }}>
        <Box component="h3" sx={{ m: 0, flex: 1, fontFamily: codeFont, fontSize: 13, overflowWrap: 'anywhere' }}>
          {field.path}
        </Box>
        <IconButton size="small" aria-label="Close the field" onClick={onClose} sx={{ p: 0.25 }}>
          <CloseIcon sx={{ fontSize: 16 }} />
        </IconButton>
      </Box>
      {field.oddities?.map((oddity) => (
        <Box key={oddity} sx={{ color: 'secondary.main', pb: 0.5 }}>
          It {oddity}.
        </Box>
      ))}
      <Line name="present in">
        {percent(field.presence)} of {counted(documents, 'document')}
        {isOfRow && field.presence < 1 && (
          <Button size="small" sx={{ py: 0, fontSize: 12 }} onClick={() => ask(`!${field.path}`)}>
            the others
          </Button>
        )}
      </Line>
      {Object.entries(types)
        .sort((a, b) => b[1] - a[1])
        .map(([kind, n]) => (
          <Line key={kind} name={kind}>
            {count(n)}, {percent(n / total)}
            {kind === 'number' && whole !== undefined && (whole === n ? ', all whole' : `, ${count(whole)} of them whole`)}
            {isOfRow && Object.keys(types).length > 1 && (
              <Button size="small" sx={{ py: 0, fontSize: 12 }} onClick={() => ask(`type_of(${field.path}) == "${kind}"`)}>
                show
              </Button>
            )}
          </Line>
        ))}
      {distinct && distinct.count > 0 && (
        <Line name="different">{distinct.exact ? count(distinct.count) : `about ${count(distinct.count)} (estimated)`}</Line>
      )}
      {field.least !== undefined && (
        <Line name="range">
          {String(field.least)} to {String(field.greatest)}
        </Line>
      )}
      {textLengths && <Line name="text length">{lengths(textLengths)}</Line>}
      {arrayLengths && <Line name="elements">{lengths(arrayLengths)}</Line>}
      <Forms field={field} />
      {field.bytes !== undefined && field.bytes > 0 && <Line name="size">about {bytes(field.bytes)}</Line>}
      {histogram && <Histogram histogram={histogram} />}
      {top.length > 0 && (distinct?.exact ?? true) && (
        <TopValues top={top} onAsk={isOfRow ? (value) => ask(`${field.path} == ${JSON.stringify(value)}`) : undefined} />
      )}
      <NoteForm collection={collection.name} field={field} />
    </Box>
  );
}

/** What its texts and arrays are, beyond their types. */
function Forms({ field: { language, vectors, formats } }: { readonly field: Field }) {
  return (
    <>
      {language && <Line name="language">{language}, by its commonest words</Line>}
      {vectors && (
        <Line name="vectors">
          {count(vectors.count)} of {count(vectors.dimensions)} numbers
          {vectors.others > 0 && `; ${counted(vectors.others, 'array')} of another length, or with what is no number`}
        </Line>
      )}
      {formats?.map(({ format, share }) => (
        <Line key={format} name="form">
          {format} {share < 1 && percent(share)}
        </Line>
      ))}
    </>
  );
}

function Histogram({ histogram }: { readonly histogram: NonNullable<Field['histogram']> }) {
  return (
    <Box sx={{ pt: 1 }}>
      <Box
        role="img"
        aria-label={`Numbers from ${histogram.from} to ${histogram.to}`}
        sx={{ display: 'flex', alignItems: 'flex-end', gap: '2px', height: 56 }}
      >
        {histogram.counts.map((n, i) => (
          <Box
            key={i}
            title={count(n)}
            sx={{
              flex: 1,
              minHeight: n > 0 ? 2 : 0,
              height: `${(n / Math.max(...histogram.counts)) * 100}%`,
              bgcolor: (t) => t.roles.flow,
            }}
          />
        ))}
      </Box>
      <Box sx={{ display: 'flex', justifyContent: 'space-between', fontSize: 11, color: 'text.secondary' }}>
        <span>{decimals.format(histogram.from)}</span>
        <span>{histogram.exact ? '' : 'from a sample'}</span>
        <span>{decimals.format(histogram.to)}</span>
      </Box>
    </Box>
  );
}

interface TopValuesProps {
  readonly top: Field['top'];
  /** Undefined where a value cannot be asked for alone. */
  readonly onAsk: ((value: Field['top'][number]['value']) => void) | undefined;
}

/** The values that come most often, each with its share of the first. */
function TopValues({ top, onAsk }: TopValuesProps) {
  const most = top[0]?.count ?? 1;
  return (
    <Box sx={{ pt: 1 }}>
      {top.map(({ value, count: n }) => (
        <Box
          key={JSON.stringify(value)}
          component="button"
          type="button"
          disabled={onAsk === undefined}
          title="Ask for these"
          onClick={() => onAsk?.(value)}
          sx={{
            all: 'unset',
            display: 'flex',
            width: '100%',
            alignItems: 'center',
            gap: 1,
            py: 0.15,
            cursor: onAsk !== undefined ? 'pointer' : 'default',
            '&:focus-visible': { outline: 'auto' },
          }}
        >
          <Box sx={{ width: 60, height: 6, bgcolor: (t) => t.roles.flowSoft, flex: 'none' }}>
            <Box sx={{ height: '100%', width: `${(n / most) * 100}%`, bgcolor: (t) => t.roles.flow }} />
          </Box>
          <Box sx={{ flex: 1, minWidth: 0, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>{String(value)}</Box>
          <Box sx={{ color: 'text.secondary' }}>{count(n)}</Box>
        </Box>
      ))}
    </Box>
  );
}

function lengths({ least, greatest, mean }: { least: number; greatest: number; mean: number }): string {
  return least === greatest ? count(least) : `${count(least)} to ${count(greatest)}, ${decimals.format(mean)} on average`;
}

function Line({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: '82px 1fr', columnGap: 1, py: 0.2 }}>
      <Box sx={{ color: 'text.secondary' }}>{name}</Box>
      <Box sx={{ overflowWrap: 'anywhere' }}>{children}</Box>
    </Box>
  );
}

function NoteForm({ collection, field }: { collection: string; field: Field }) {
  const { control, handleSubmit, reset, formState } = useForm({
    mode: 'onChange',
    resolver: zodResolver(fieldNote),
    defaultValues: { path: field.path, note: field.note ?? '', unit: field.unit ?? '' },
  });
  // Both are read each time: what is not read is not kept up.
  const { isDirty, isValid } = formState;
  const [save, { isLoading }] = useSetFieldNoteMutation();
  const { enqueueSnackbar } = useSnackbar();
  const keep = handleSubmit(async (noted) => {
    const done = await save({ collection, ...noted });
    if (done.error) enqueueSnackbar(problemText(done.error), { variant: 'error' });
    else {
      reset(noted);
      enqueueSnackbar('Noted.');
    }
  });
  return (
    <Box
      component="form"
      onSubmit={(event: React.FormEvent) => void keep(event)}
      sx={{ pt: 2, display: 'flex', flexDirection: 'column', gap: 1.25 }}
    >
      <FormField label="Note" control={control} name="note" multiline placeholder="what it means" />
      <FormField label="Unit" control={control} name="unit" placeholder="metres, thousands of francs" />
      <Button type="submit" variant="outlined" disabled={!isDirty || !isValid || isLoading}>
        Keep the note
      </Button>
    </Box>
  );
}
