import { apiUrl } from '../../../api/apiUrl.ts';
import type { ChangeAnswer, ChangeProgress } from '@zesty-sieve/contract';
import { useRef, useState } from 'react';
import { api, touched } from '../../../api/base.ts';
import { endTracked } from '../../../api/work.ts';
import { problemText } from '../../../api/problems.ts';
import { useAppDispatch } from '../../../app/store.ts';
import { parametersFor } from '../../../state/bench/parameters.ts';

const askEveryMs = 250;

export interface Applying {
  readonly progress: ChangeProgress | undefined;
}

/** Makes a change, with its progress. What became of one that was to end is told by its answer: it may have been made before. */
export function useApply(collection: string, onDone: (answer: ChangeAnswer) => void, onProblem: (text: string) => void) {
  const [applying, setApplying] = useState<Applying | null>(null);
  const underWay = useRef<string>(null);
  const dispatch = useAppDispatch();

  const apply = async (change: string, parameters: Readonly<Record<string, string>>) => {
    const track = `change-${Date.now()}-${Math.random().toString(36).slice(2)}`;
    underWay.current = track;
    setApplying({ progress: undefined });
    const asking = setInterval(() => {
      void fetch(apiUrl('changes', 'progress', track))
        .then(async (response) => {
          if (!response.ok) return;
          const progress = (await response.json()) as ChangeProgress;
          setApplying((now) => now && { progress });
        })
        .catch(() => undefined);
    }, askEveryMs);
    try {
      const response = await fetch(apiUrl('changes'), {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ change, parameters: parametersFor(parameters), track }),
      });
      const data = (await response.json()) as ChangeAnswer;
      if (response.ok) onDone(data);
      else onProblem(problemText({ data }));
    } catch {
      onProblem(
        'The connection was lost before the server answered. A change is made whole or not at all: look below which before you make it again.',
      );
    } finally {
      underWay.current = null;
      clearInterval(asking);
      setApplying(null);
      dispatch(api.util.invalidateTags(touched(collection)));
    }
  };
  const cancel = () => {
    const track = underWay.current;
    if (track !== null) void endTracked(track, () => underWay.current === track);
  };
  return { applying, apply, cancel };
}
