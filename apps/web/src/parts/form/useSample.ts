import { apiUrl } from '../../api/apiUrl.ts';
import type { QueryAnswer } from '@zesty-sieve/contract';
import { useEffect, useState } from 'react';
import { postText, useAskedLater } from '../asking/useAskedLater.ts';
import { parametersFor } from '../../state/bench/parameters.ts';
import { useWrittenText } from './writtenText.ts';

const pauseMs = 350;
const reads = 20_000;

/** The first rows of a pipeline beside the one on the Bench, from a bounded run; undefined while there are none. */
export function useSample(pipeline: string | undefined, size: number): readonly unknown[] | undefined {
  const { parameters } = useWrittenText();
  const [rows, setRows] = useState<readonly unknown[]>();
  const body =
    pipeline === undefined
      ? undefined
      : JSON.stringify({ pipeline, pageSize: size, readAtMost: reads, parameters: parametersFor(parameters) });
  useEffect(() => setRows(undefined), [body]);
  useAskedLater(
    body,
    async (question, signal) => {
      // Examples that cannot be had are left out.
      const answer = await postText(apiUrl('query'), question, signal).catch(() => undefined);
      if (answer?.ok) setRows(((await answer.json()) as QueryAnswer).documents);
    },
    pauseMs,
  );
  return rows;
}
