import { apiUrl } from '../../../api/apiUrl.ts';
import type { ChangeAnswer, ChangeProgress } from '@zesty-sieve/contract';
import { useRef, useState } from 'react';
import { api, touched } from '../../../api/base.ts';
import { problemText } from '../../../api/problems.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { parametersFor } from '../../../state/bench/ask.ts';

const askEveryMs = 250;

export interface Applying {
  readonly progress: ChangeProgress | undefined;
}

/** Makes a change, with its progress; cancelling leaves nothing changed. */
export function useApply(collection: string, onDone: (answer: ChangeAnswer) => void, onProblem: (text: string) => void) {
  const [applying, setApplying] = useState<Applying | null>(null);
  const abort = useRef<AbortController>(null);
  const dispatch = useAppDispatch();

  const apply = async (change: string, parameters: Readonly<Record<string, string>>) => {
    const track = `change-${Date.now()}-${Math.random().toString(36).slice(2)}`;
    const ending = new AbortController();
    abort.current = ending;
    setApplying({ progress: undefined });
    const asking = setInterval(() => {
      void fetch(apiUrl('changes', 'progress', track)).then(async (response) => {
        if (!response.ok) return;
        const progress = (await response.json()) as ChangeProgress;
        setApplying((now) => now && { progress });
      });
    }, askEveryMs);
    try {
      const response = await fetch(apiUrl('changes'), {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ change, parameters: parametersFor(parameters), track }),
        signal: ending.signal,
      });
      const data = (await response.json()) as ChangeAnswer;
      if (response.ok) onDone(data);
      else onProblem(problemText({ data }));
    } catch (error) {
      onProblem(ending.signal.aborted ? 'The change was cancelled. Nothing was changed.' : (error as Error).message);
    } finally {
      clearInterval(asking);
      setApplying(null);
      dispatch(api.util.invalidateTags(touched(collection)));
    }
  };
  return { applying, apply, cancel: () => abort.current?.abort() };
}
