import { zodResolver } from '@hookform/resolvers/zod';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { indexDefinition, type IndexKindName, type IndexRequestBody, type WhatIfAnswer } from '@zesty-sieve/contract';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { useWhatIfMutation } from '../../api/indexes.ts';
import { problemText } from '../../api/problems.ts';
import { FormField } from '../../parts/FormField.tsx';
import { bytes, count, counted, duration } from '../../parts/numbers.ts';
import { indexKindNames, viewOfKind } from './kinds/registry.ts';
import { Served } from '../../parts/Served.tsx';

interface NewIndexProps {
  readonly collection: string;
  readonly isBuilding: boolean;
  readonly problem: string | undefined;
  readonly onBuild: (asked: IndexRequestBody) => Promise<boolean>;
  readonly onTyped: () => void;
}

const typedText = z
  .string()
  .trim()
  .transform((text) => (text === '' ? undefined : text));
const kindName = z.enum(indexKindNames);
/** What is typed, as the contract's request: what a kind asks for of its own, and what every kind has. */
const typedRequest = z
  .object({ kind: kindName, draft: z.unknown(), where: typedText, name: typedText })
  .transform(({ kind, draft, where, name }): unknown => ({ kind, ...viewOfKind(kind).request(draft), where, name }))
  .pipe(z.preprocess((made) => made, indexDefinition));
const nothingTyped = (kind: IndexKindName) => ({ kind, draft: viewOfKind(kind).empty, where: '', name: '' });

/** Asks for an index of keys written in the notation: what it would serve is seen before it is built. */
export function NewIndex({ collection, isBuilding, problem, onBuild, onTyped }: NewIndexProps) {
  const { control, handleSubmit, reset, watch, setValue, getValues, formState } = useForm({
    mode: 'onChange',
    resolver: zodResolver(typedRequest),
    defaultValues: nothingTyped(indexKindNames[0]!),
  });
  const { isValid } = formState;
  const kind = watch('kind');
  const view = viewOfKind(kind);
  const [whatIf, { data, error, isLoading, reset: forget }] = useWhatIfMutation();
  const typed = () => {
    forget();
    onTyped();
  };
  const wrong = problem ?? (error === undefined ? undefined : problemText(error));
  const build = handleSubmit(async (asked) => {
    if (!(await onBuild(asked))) return;
    reset(nothingTyped(kind));
    forget();
  });
  const ask = handleSubmit(async (asked) => {
    await whatIf({ indexes: [{ collection, ...asked }] });
  });
  return (
    <Box
      component="form"
      aria-label="New index"
      onSubmit={build}
      sx={{ px: 2.5, py: 2, bgcolor: (t) => t.roles.form, borderBottom: 1, borderColor: 'divider' }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'flex-start', flexWrap: 'wrap' }}>
        {indexKindNames.length > 1 && (
          <TextField
            select
            label="Kind"
            value={kind}
            helperText={view.doc}
            onChange={(event) => {
              // At once with its draft: that of another kind says nothing to it.
              reset({ ...nothingTyped(kindName.parse(event.target.value)), name: getValues('name') });
              typed();
            }}
            sx={{ width: 210 }}
          >
            {indexKindNames.map((one) => (
              <MenuItem key={one} value={one}>
                {viewOfKind(one).title}
              </MenuItem>
            ))}
          </TextField>
        )}
        <view.Fields
          draft={watch('draft')}
          wrong={wrong}
          onChange={(draft: unknown) => {
            setValue('draft', draft, { shouldValidate: true });
            typed();
          }}
        />
        {view.takesCondition && (
          <FormField
            label="Only where (optional)"
            placeholder='@.status == "late"'
            control={control}
            name="where"
            onChosen={typed}
            sx={{ flex: 1, minWidth: 190 }}
          />
        )}
        <FormField
          label="Name (optional)"
          placeholder="after its keys"
          control={control}
          name="name"
          onChosen={typed}
          sx={{ width: 150 }}
        />
        <Button variant="outlined" disabled={!isValid || isLoading} onClick={() => void ask()} sx={{ mt: 0.5, order: 2 }}>
          What if?
        </Button>
        <Button type="submit" variant="contained" disabled={!isValid || isBuilding} sx={{ mt: 0.5, order: 2 }}>
          {isBuilding ? 'Building …' : 'Build'}
        </Button>
      </Box>
      {data && <WouldServe answer={data} />}
    </Box>
  );
}

const shown = 6;
/** An estimate, no finer than it is. */
const about = (value: number): string => count(Number(value.toPrecision(2)));

function WouldServe({ answer: { runs, serves, costs } }: { answer: WhatIfAnswer }) {
  return (
    <Box role="status" sx={{ pt: 1.25, fontSize: 12.5 }}>
      {costs.map((cost, i) => (
        <Box key={i}>
          About {about(cost.entries)} entries, {bytes(cost.bytes)} in memory, built in about {duration(cost.buildMs)}.
        </Box>
      ))}
      {serves.length === 0
        ? `None of the ${counted(runs, 'kept run')} and of the saved pipelines would read less with it.`
        : `With it, by an estimate from a sample, these would read less:`}
      <Served
        label="What it would serve"
        questions={serves.slice(0, shown).map(({ documentsRead, instead, ...one }) => ({ ...one, from: documentsRead, to: instead }))}
      />
      {serves.length > shown && <Box sx={{ color: 'text.secondary' }}>and {serves.length - shown} more</Box>}
    </Box>
  );
}
