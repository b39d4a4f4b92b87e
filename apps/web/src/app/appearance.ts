import useMediaQuery from '@mui/material/useMediaQuery';
import { createContext, useMemo, useState } from 'react';
import { keepText, keptText } from '../state/kept.ts';

/** `system` follows what the operating system or the browser asks for. */
export const appearances = ['system', 'light', 'dark'] as const;
export type Appearance = (typeof appearances)[number];

const storageKey = 'zesty-sieve.appearance';

function kept(): Appearance {
  const text = keptText(storageKey);
  return appearances.find((one) => one === text) ?? 'system';
}

interface ChosenAppearance {
  readonly chosen: Appearance;
  readonly choose: (appearance: Appearance) => void;
}

export const AppearanceContext = createContext<ChosenAppearance>({ chosen: 'system', choose: () => undefined });

/** What was chosen in this browser, and whether that is light or dark now. */
export function useAppearance(): ChosenAppearance & { readonly mode: 'light' | 'dark' } {
  const [chosen, setChosen] = useState(kept);
  const systemIsDark = useMediaQuery('(prefers-color-scheme: dark)', { noSsr: true });
  const mode = chosen === 'system' ? (systemIsDark ? 'dark' : 'light') : chosen;
  return useMemo(
    () => ({
      chosen,
      mode,
      choose: (appearance) => {
        keepText(storageKey, appearance);
        setChosen(appearance);
      },
    }),
    [chosen, mode],
  );
}
