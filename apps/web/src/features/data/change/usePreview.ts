import { apiUrl } from '../../../api/apiUrl.ts';
import type { PreviewAnswer } from '@zesty-sieve/contract';
import { useState } from 'react';
import { postText, useAskedLater } from '../../../parts/asking/useAskedLater.ts';
import { problemText } from '../../../api/problems.ts';
import { parametersFor } from '../../../state/bench/parameters.ts';

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
  const body = JSON.stringify({ change, parameters: parametersFor(parameters), offset, size: sampleSize });
  useAskedLater(
    // White space at the end asks the same anew.
    isSound ? body + ' '.repeat(again) : undefined,
    async (question, signal) => {
      setPreview((now) => ({ ...now, isWorking: true }));
      try {
        const response = await postText(apiUrl('changes', 'preview'), question, signal);
        const data = (await response.json()) as PreviewAnswer;
        if (response.ok) setPreview({ answer: data, of: change, problem: undefined, isWorking: false });
        else setPreview((now) => ({ ...now, problem: problemText({ data }), isWorking: false }));
      } catch (error) {
        if (!signal.aborted) setPreview((now) => ({ ...now, problem: (error as Error).message, isWorking: false }));
      }
    },
    pauseMs,
  );
  return preview;
}
