import { useState } from 'react';
import { keptName } from '../api/database.ts';

/** A choice that the browser keeps. @param isOne whether what was kept may be one of its values */
export function useKept<T extends string>(name: string, usual: T, isOne: (kept: string) => boolean): readonly [T, (next: T) => void] {
  const [value, setValue] = useState<T>(() => {
    try {
      const kept = localStorage.getItem(keptName(name));
      return kept !== null && isOne(kept) ? (kept as T) : usual;
    } catch {
      return usual;
    }
  });
  const choose = (next: T): void => {
    setValue(next);
    try {
      localStorage.setItem(keptName(name), next);
    } catch {
      // A browser that keeps nothing forgets it with the page.
    }
  };
  return [value, choose];
}
