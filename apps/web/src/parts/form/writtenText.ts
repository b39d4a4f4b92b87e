import { createContext, useContext } from 'react';
import { useBench } from '../../state/bench/useBench.ts';

/** The text whose stages forms edit, as far as it can be run, and what its parameters are given. */
export interface WrittenText {
  readonly text: string;
  readonly parameters: Readonly<Record<string, string>>;
}

/** Where it is not the pipeline of the Bench. */
export const OtherText = createContext<WrittenText | null>(null);

export function useWrittenText(): WrittenText {
  const bench = useBench('text', 'parameters');
  return useContext(OtherText) ?? bench;
}
