import type { Column } from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, type RefObject } from 'react';

/** The columns that are drawn, by their places among all, and the room that stands before them. */
export interface Across {
  readonly from: number;
  readonly to: number;
  /** Pixels. */
  readonly left: number;
}

/** So many are drawn whether or not they are in sight: nothing comes and goes as one scrolls through what people have. */
const allOf = 60;

/** Of thousands of columns, those in sight. */
export function useAcross(columns: readonly Column<unknown>[], scroller: RefObject<HTMLElement | null>): Across {
  const isWide = columns.length > allOf;
  const virtual = useVirtualizer({
    horizontal: true,
    enabled: isWide,
    count: columns.length,
    getScrollElement: () => scroller.current,
    estimateSize: (at) => columns[at]!.getSize(),
    overscan: 8,
  });
  const widths = isWide ? columns.map((column) => column.getSize()).join() : '';
  useEffect(() => virtual.measure(), [widths, virtual]);
  if (!isWide) return { from: 0, to: columns.length, left: 0 };
  const items = virtual.getVirtualItems();
  const [first] = items;
  return { from: first?.index ?? 0, to: (items.at(-1)?.index ?? -1) + 1, left: first?.start ?? 0 };
}
