import { apiUrl } from '../../../api/apiUrl.ts';
import { fetchJson } from '../../../api/fetchJson.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import type { CollectionInfo, Expectation } from '@zesty-sieve/contract';
import type { Json } from '@zesty-sieve/core/language';
import { useSnackbar } from 'notistack';
import { useEffect, useState } from 'react';
import { problemText } from '../../../api/problems.ts';
import { useCheckExpectationMutation, useExpectationQuery, useSetExpectationMutation } from '../../../api/shapes.ts';
import { count, counted } from '../../../parts/numbers.ts';
import { JsonEditor } from '../documents/JsonEditor.tsx';

const modes: readonly (readonly [Expectation['mode'], string])[] = [
  ['off', 'only kept here'],
  ['warn', 'told when one is stored'],
  ['refuse', 'refused'],
];

/** The JSON Schema that documents of a collection are expected to meet. */
export function ExpectedPanel({ collection }: { collection: CollectionInfo }) {
  const { data } = useExpectationQuery(collection.name);
  const [set, { isLoading }] = useSetExpectationMutation();
  const [check, checking] = useCheckExpectationMutation();
  const [text, setText] = useState('');
  const [made, setMade] = useState(0);
  const [mode, setMode] = useState<Expectation['mode']>('off');
  const { enqueueSnackbar } = useSnackbar();
  const show = (value: string) => {
    setText(value);
    setMade((n) => n + 1);
  };
  useEffect(() => {
    if (!data) return;
    setMode(data.mode);
    show(data.schema === null ? '' : JSON.stringify(data.schema, null, 2));
  }, [data]);
  const fromShape = async () => {
    try {
      show(JSON.stringify((await fetchJson(apiUrl('collections', collection.name, 'json-schema'))).value, null, 2));
    } catch (error) {
      enqueueSnackbar((error as Error).message, { variant: 'error' });
    }
  };
  const save = async () => {
    let schema: Json = null;
    try {
      if (text.trim() !== '') schema = JSON.parse(text) as Json;
    } catch (error) {
      enqueueSnackbar(`This is no JSON: ${(error as Error).message}`, { variant: 'error' });
      return;
    }
    const done = await set({ collection: collection.name, schema, mode });
    if (done.error) enqueueSnackbar(problemText(done.error), { variant: 'error' });
    else enqueueSnackbar('Kept.');
  };
  const result = checking.data;
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', gap: 2, p: 2.5 }}>
      <Box sx={{ flex: 1, minWidth: 0, display: 'flex', flexDirection: 'column', gap: 1.5 }}>
        <Box sx={{ display: 'flex', alignItems: 'center', gap: 1.5, flexWrap: 'wrap' }}>
          A document that is not of this form is
          <ToggleButtonGroup
            value={mode}
            onChange={(_event, next: Expectation['mode'] | null) => next && setMode(next)}
            aria-label="What happens with others"
          >
            {modes.map(([value, label]) => (
              <ToggleButton key={value} value={value}>
                {label}
              </ToggleButton>
            ))}
          </ToggleButtonGroup>
        </Box>
        <JsonEditor text={text} made={made} onText={setText} label="JSON Schema" />
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <Button onClick={() => void fromShape()}>Begin with what the documents are like</Button>
          <Box sx={{ flex: 1 }} />
          <Button variant="outlined" disabled={data?.schema == null || checking.isLoading} onClick={() => void check(collection.name)}>
            Check what is there
          </Button>
          <Button variant="contained" disabled={isLoading} onClick={() => void save()}>
            Keep it
          </Button>
        </Box>
      </Box>
      <Box sx={{ width: 380, flex: 'none', overflow: 'auto' }} aria-live="polite">
        {checking.error && <Box sx={{ color: 'error.main' }}>{problemText(checking.error)}</Box>}
        {result === undefined && !checking.error && (
          <Box sx={{ color: 'text.secondary' }}>
            A JSON Schema (draft 2020-12). Changes, loaded files and single documents are held against it; the check goes through what is
            stored already.
          </Box>
        )}
        {result && (
          <>
            <Box sx={{ pb: 1 }}>
              {result.failing === 0
                ? `All ${counted(result.checked, 'document')} are as expected.`
                : `${counted(result.failing, 'document')} of ${count(result.checked)} ${result.failing === 1 ? 'is' : 'are'} not as expected.`}
            </Box>
            {result.examples.map(({ identity, problems }) => (
              <Box key={identity} sx={{ py: 0.5, borderTop: 1, borderColor: 'divider', fontSize: 12.5 }}>
                <b>{identity}</b>
                {problems.map((problem) => (
                  <Box key={problem} sx={{ color: 'text.secondary' }}>
                    {problem}
                  </Box>
                ))}
              </Box>
            ))}
          </>
        )}
      </Box>
    </Box>
  );
}
