import type { PreviewAnswer } from '@zesty-sieve/contract';
import { useEffect, useState } from 'react';
import { problemText } from '../../../api/api.ts';
import { parametersFor } from '../../bench/state/ask.ts';

const pauseMs = 500;
export const sampleSize = 10;

export interface Preview {
  readonly answer: PreviewAnswer | undefined;
  /** The text that the answer is of. */
  readonly of: string | undefined;
  readonly problem: string | undefined;
  readonly isWorking: boolean;
}

const none: Preview = { answer: undefined, of: undefined, problem: undefined, isWorking: false };

/** What a change would do, asked when typing pauses; overtaken questions are ended at the server. `again` asks anew. */
export function usePreview(
  change: string,
  isSound: boolean,
  parameters: Readonly<Record<string, string>>,
  offset: number,
  again: number,
): Preview {
  const [preview, setPreview] = useState<Preview>(none);
  useEffect(() => {
    if (!isSound) return undefined;
    const abort = new AbortController();
    const timer = setTimeout(() => {
      setPreview((now) => ({ ...now, isWorking: true }));
      const body = JSON.stringify({ change, parameters: parametersFor(parameters), offset, size: sampleSize });
      fetch('/api/changes/preview', { method: 'POST', headers: { 'content-type': 'application/json' }, body, signal: abort.signal })
        .then(async (response) => {
          const data = (await response.json()) as PreviewAnswer;
          if (response.ok) setPreview({ answer: data, of: change, problem: undefined, isWorking: false });
          else setPreview((now) => ({ ...now, problem: problemText({ data }), isWorking: false }));
        })
        .catch((error: Error) => {
          if (!abort.signal.aborted) setPreview((now) => ({ ...now, problem: error.message, isWorking: false }));
        });
    }, pauseMs);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [change, isSound, parameters, offset, again]);
  return preview;
}
