import Box from '@mui/material/Box';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef, type ReactNode } from 'react';
import { count } from '../numbers.ts';
import { JsonView } from '../JsonView.tsx';
import type { Rows } from './useRows.ts';

/** Rows as whole documents, one under another. */
export function DocumentList({ rows, more, actions }: Pick<Rows, 'rows' | 'more'> & { actions?: (row: unknown) => ReactNode }) {
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({ count: rows.length, getScrollElement: () => scroller.current, estimateSize: () => 260, overscan: 3 });
  const items = virtual.getVirtualItems();
  const lastSeen = items[items.length - 1]?.index ?? 0;
  useEffect(() => {
    if (lastSeen >= rows.length - 10) more();
  }, [lastSeen, rows.length, more]);
  return (
    <Box ref={scroller} tabIndex={0} aria-label="Documents" sx={{ flex: 1, minHeight: 0, overflow: 'auto' }}>
      <Box sx={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {items.map(({ index, start, key }) => (
          <Box
            key={key}
            ref={virtual.measureElement}
            data-index={index}
            sx={{
              position: 'absolute',
              top: start,
              left: 0,
              right: 0,
              px: 2,
              py: 1.25,
              borderBottom: 1,
              borderColor: 'divider',
              bgcolor: 'background.paper',
              display: 'flex',
              gap: 2,
            }}
          >
            <Box sx={{ width: 30, flex: 'none', textAlign: 'right', color: 'text.secondary', fontSize: 11.5, lineHeight: '19px' }}>
              {count(index + 1)}
            </Box>
            <Box sx={{ flex: 1, minWidth: 0 }}>
              <JsonView value={rows[index]} />
            </Box>
            {actions?.(rows[index])}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
