import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useDeferredValue, useMemo, useRef, useState } from 'react';
import { problemText, useShapeQuery } from '../../api/api.ts';
import { FieldHeads, FieldRow, fieldRowHeight } from '../../parts/FieldRows.tsx';
import { count } from '../../parts/numbers.ts';

/** Every field path of a collection, with its types, how often it is there, and what its values are like. */
export function ShapeTable({ collection }: { collection: string }) {
  const { data, error, isFetching } = useShapeQuery(collection);
  const [typed, setTyped] = useState('');
  const wanted = useDeferredValue(typed.trim().toLowerCase());
  const fields = useMemo(() => (data?.fields ?? []).filter(({ path }) => path.toLowerCase().includes(wanted)), [data, wanted]);
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
      <Box sx={{ px: 2.5, py: 1.25, display: 'flex', alignItems: 'center', gap: 2 }}>
        <TextField
          placeholder="Find a field"
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
          slotProps={{ htmlInput: { 'aria-label': 'Find a field' } }}
          sx={{ width: 240, bgcolor: 'background.paper' }}
        />
        <Box sx={{ color: 'text.secondary', fontSize: 12.5 }}>
          {data
            ? `${count(fields.length)} of ${count(data.fields.length)} field paths, over ${count(data.count)} documents`
            : isFetching
              ? 'Looking through the documents …'
              : ''}
        </Box>
      </Box>
      <Box
        ref={scroller}
        role="table"
        aria-label="Fields"
        tabIndex={0}
        sx={{ flex: 1, minHeight: 0, overflow: 'auto', bgcolor: 'background.paper', borderTop: 1, borderColor: 'divider' }}
      >
        <FieldHeads />
        <Box sx={{ height: virtual.getTotalSize(), position: 'relative' }}>
          {virtual.getVirtualItems().map(({ index, start }) => (
            <Box key={fields[index].path} sx={{ position: 'absolute', top: start, left: 0, right: 0 }}>
              <FieldRow field={fields[index]} />
            </Box>
          ))}
        </Box>
      </Box>
    </Box>
  );
}
