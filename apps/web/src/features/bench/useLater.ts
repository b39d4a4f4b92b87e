import type { Diagnostic } from '@zesty-sieve/core/language';
import { useEffect, useState } from 'react';

const findingsPauseMs = 450;

/** Diagnostics wait until typing pauses: what is half typed is not wrong yet. */
export function useLater(diagnostics: readonly Diagnostic[], text: string): readonly Diagnostic[] {
  const [shown, setShown] = useState<readonly Diagnostic[]>([]);
  useEffect(() => {
    const timer = setTimeout(() => setShown(diagnostics), findingsPauseMs);
    return () => clearTimeout(timer);
  }, [diagnostics, text]);
  return shown;
}
