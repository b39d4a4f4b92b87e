import { useSyncExternalStore } from 'react';
import { keepText, keptText } from '../../state/kept.ts';

/** Sizes of the text in editors, in pixels. */
const sizes = [11, 12, 13, 14, 16, 18, 20, 24];
const usual = 13;
const place = 'zesty-sieve.text-size';

let size = kept();
const listeners = new Set<() => void>();

function kept(): number {
  const read = Number(keptText(place));
  return sizes.includes(read) ? read : usual;
}

/** Makes the text larger (1) or smaller (-1) by a step, or of the usual size (0); this browser keeps it. */
export function changeTextSize(by: -1 | 0 | 1): void {
  size = by === 0 ? usual : sizes[Math.max(0, Math.min(sizes.length - 1, sizes.indexOf(size) + by))]!;
  keepText(place, String(size));
  for (const listener of listeners) listener();
}

/** The size of the text in editors, in pixels. */
export function useTextSize(): number {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => size,
  );
}
