import { useState } from 'react';
import { keptName } from '../api/database.ts';
import { keepText, keptText } from '../state/kept.ts';

/** A choice that the browser keeps. @param isOne whether what was kept may be one of its values */
export function useKept<T extends string>(name: string, usual: T, isOne: (kept: string) => boolean): readonly [T, (next: T) => void] {
  const [value, setValue] = useState<T>(() => {
    const kept = keptText(keptName(name));
    return kept !== null && isOne(kept) ? (kept as T) : usual;
  });
  const choose = (next: T): void => {
    setValue(next);
    keepText(keptName(name), next);
  };
  return [value, choose];
}
