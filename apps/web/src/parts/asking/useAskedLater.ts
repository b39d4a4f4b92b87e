import { useEffect, useRef } from 'react';

/**
 * Asks when a question has stayed the same for a moment; one that is overtaken, or that nobody waits for any more, is ended.
 * @param question what is asked, in full, as text; undefined for nothing
 * @param ask asks it; what it throws after it was ended concerns nobody
 * @param pauseMs how long the question has to stay the same
 */
export function useAskedLater(
  question: string | undefined,
  ask: (question: string, signal: AbortSignal) => Promise<void>,
  pauseMs: number,
): void {
  const latest = useRef(ask);
  useEffect(() => {
    latest.current = ask;
  });
  useEffect(() => {
    if (question === undefined) return undefined;
    const abort = new AbortController();
    const { signal } = abort;
    const timer = setTimeout(() => {
      latest.current(question, signal).catch((error: unknown) => {
        if (!signal.aborted) throw error;
      });
    }, pauseMs);
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [question, pauseMs]);
}

/** Sends a JSON body that was made as text. */
export function postText(url: string, body: string, signal: AbortSignal): Promise<Response> {
  return fetch(url, { method: 'POST', headers: { 'content-type': 'application/json' }, body, signal });
}
