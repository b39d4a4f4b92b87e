import { apiUrl } from '../../../api/apiUrl.ts';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useVirtualizer } from '@tanstack/react-virtual';
import type { CollectionInfo, Field, Shape } from '@zesty-sieve/contract';
import { useDeferredValue, useMemo, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { problemText } from '../../../api/problems.ts';
import { useShapeQuery } from '../../../api/shapes.ts';
import { FieldHeads, FieldRow, fieldRowHeight } from '../../../parts/FieldRows.tsx';
import { bytes, count, counted } from '../../../parts/numbers.ts';
import { FieldDetail } from './FieldDetail.tsx';

/** What documents take in memory, and one of them; in one line, so that nothing below it moves when it comes. */
function memoryText({ memoryBytes, count: documents }: Shape): string {
  return documents === 0 ? '' : ` · in memory ${bytes(memoryBytes)}, ${count(Math.round(memoryBytes / documents))} bytes a document`;
}

/** Every field path of a collection, with its types, how often it is there, and what its values are like; and what is odd. */
export function ShapePanel({ collection, isOfView = false }: { collection: CollectionInfo; isOfView?: boolean }) {
  const { data, error, isFetching } = useShapeQuery(collection.name);
  const [parameters, setParameters] = useSearchParams();
  const [typed, setTyped] = useState('');
  const [isOddOnly, setOddOnly] = useState(false);
  const wanted = useDeferredValue(typed.trim().toLowerCase());
  const fields = useMemo(
    () =>
      (data?.fields ?? []).filter(({ path, oddities }) => path.toLowerCase().includes(wanted) && (!isOddOnly || oddities !== undefined)),
    [data, wanted, isOddOnly],
  );
  const odd = data?.fields.filter(({ oddities }) => oddities !== undefined).length ?? 0;
  const chosen = data?.fields.find(({ path }) => path === parameters.get('field'));
  const choose = (field: Field | null) => {
    const next = new URLSearchParams(parameters);
    if (field === null) next.delete('field');
    else next.set('field', field.path);
    setParameters(next, { replace: true });
  };
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: fields.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => fieldRowHeight,
    overscan: 10,
  });
  if (error) return <Box sx={{ p: 2.5, color: 'error.main' }}>{problemText(error)}</Box>;
  return (
    <Box sx={{ flex: 1, minHeight: 0, display: 'flex', flexDirection: 'column' }}>
      <Box sx={{ px: 2.5, py: 1.25, display: 'flex', alignItems: 'center', gap: 2, flexWrap: 'wrap' }}>
        <TextField
          placeholder="Find a field"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          slotProps={{ htmlInput: { 'aria-label': 'Find a field' } }}
          sx={{ width: 220, bgcolor: 'background.paper' }}
        />
        <Box sx={{ color: 'text.secondary', fontSize: 12.5, flex: '1 1 0', minWidth: 160 }}>
          {data
            ? `${count(fields.length)} of ${count(data.fields.length)} field paths${data.hasMore ? ', and more that are not told' : ''}${memoryText(data)}`
            : isFetching
              ? 'Looking through the documents …'
              : ''}
        </Box>
        {odd > 0 && (
          <Button size="small" aria-pressed={isOddOnly} color="secondary" onClick={() => setOddOnly(!isOddOnly)}>
            {isOddOnly ? 'All fields' : `${counted(odd, 'field')} to look at`}
          </Button>
        )}
        {!isOfView && (
          <>
            <Button size="small" onClick={() => setParameters({ show: 'beside' })}>
              Beside another
            </Button>
            <Button size="small" onClick={() => setParameters({ show: 'expected' })}>
              Expected form
            </Button>
          </>
        )}
        <Button size="small" href={apiUrl('collections', collection.name, 'json-schema')} download>
          JSON Schema
        </Button>
      </Box>
      <Box sx={{ flex: 1, minHeight: 0, display: 'flex' }}>
        <Box
          ref={scroller}
          role="table"
          aria-label="Fields"
          tabIndex={0}
          sx={{ flex: 1, minWidth: 0, overflow: 'auto', bgcolor: 'background.paper', borderTop: 1, borderColor: 'divider' }}
        >
          <FieldHeads />
          <Box sx={{ height: virtual.getTotalSize(), position: 'relative' }}>
            {virtual.getVirtualItems().map(({ index, start }) => (
              <Box key={fields[index]!.path} sx={{ position: 'absolute', top: start, left: 0, right: 0 }}>
                <FieldRow field={fields[index]!} isChosen={fields[index]!.path === chosen?.path} onChoose={() => choose(fields[index]!)} />
              </Box>
            ))}
          </Box>
        </Box>
        {chosen && (
          <FieldDetail key={chosen.path} collection={collection} field={chosen} documents={data?.count ?? 0} onClose={() => choose(null)} />
        )}
      </Box>
    </Box>
  );
}
