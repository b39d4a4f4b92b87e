import type { QueryAnswer } from '@zesty-sieve/contract';
import { useEffect, useState } from 'react';
import { parametersFor } from '../state/ask.ts';
import { useWrittenText } from './writtenText.ts';

const pauseMs = 350;
const reads = 20_000;

/** The first rows of a pipeline beside the one on the Bench, from a bounded run; undefined while there are none. */
export function useSample(pipeline: string | undefined, size: number): readonly unknown[] | undefined {
  const { parameters } = useWrittenText();
  const [rows, setRows] = useState<readonly unknown[]>();
  useEffect(() => {
    setRows(undefined);
    if (pipeline === undefined) return undefined;
    const abort = new AbortController();
    const timer = setTimeout(() => {
      const body = JSON.stringify({ pipeline, pageSize: size, readAtMost: reads, parameters: parametersFor(parameters) });
      fetch('/api/query', { method: 'POST', headers: { 'content-type': 'application/json' }, body, signal: abort.signal })
        .then(async (response) => response.ok && setRows(((await response.json()) as QueryAnswer).documents))
        // Examples that cannot be had are left out.
        .catch(() => undefined);
    }, pauseMs);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [pipeline, size, parameters]);
  return rows;
}
