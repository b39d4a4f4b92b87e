import type { FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import type { Problem } from '@zesty-sieve/contract';

/** Whether a call failed because what it asked for was ended by hand. */
export function isCancelled(error: unknown): boolean {
  return ((error as { data?: Partial<Problem> } | undefined)?.data?.type ?? '').endsWith('/cancelled');
}

/** What a failed call tells, in words. */
export function problemText(error: unknown): string {
  const { data, status } = (error ?? {}) as Partial<FetchBaseQueryError> & { data?: Partial<Problem> };
  if (data?.detail !== undefined) return data.detail;
  if (data?.title !== undefined) return data.title;
  return status === 'FETCH_ERROR' ? 'The server does not answer. Is it still running?' : 'The call failed.';
}
