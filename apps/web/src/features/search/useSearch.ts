import type { QueryAnswer } from '@zesty-sieve/contract';
import { skipToken } from '@reduxjs/toolkit/query';
import { problemText } from '../../api/problems.ts';
import { useAnswerQuery } from '../../api/searching.ts';
import { pipelinesOf, type SearchPipelines } from './pipelines.ts';
import type { SearchSettings } from './settings.ts';

/** One result, as the pipeline gives it. */
export interface Found {
  readonly identity: string | number;
  readonly score: number;
  readonly title?: unknown;
  readonly passage?: string;
  readonly beginning?: unknown;
  readonly byWords?: number;
  readonly byMeaning?: number;
}

export interface Searched {
  readonly pipelines: SearchPipelines;
  readonly results: readonly Found[];
  /** The identities in the order of each ranking, the first places of it. */
  readonly byWords: readonly unknown[] | undefined;
  readonly byMeaning: readonly unknown[] | undefined;
  readonly answer: QueryAnswer;
}

/** What was asked: it stays until the next search. */
export interface Sought {
  readonly collection: string;
  readonly identity: string;
  readonly words: string;
  /** The texts of its documents, the longest last. */
  readonly texts: readonly string[];
  readonly settings: SearchSettings;
  /** Tells one search from the next of the same. */
  readonly once: number;
}

export function useSearch(sought: Sought | undefined): { readonly searched: Searched | undefined; readonly problem: string | undefined; readonly isSearching: boolean } {
  const pipelines = sought && pipelinesOf(sought.collection, sought.identity, sought.settings, sought.texts);
  const question = (pipeline: string | undefined) =>
    sought === undefined || pipeline === undefined ? skipToken : { pipeline, parameters: { words: sought.words }, pageSize: 100, once: sought.once };
  const fused = useAnswerQuery(question(pipelines?.fused));
  const byWords = useAnswerQuery(question(pipelines?.byWords));
  const byMeaning = useAnswerQuery(question(pipelines?.byMeaning));
  const identities = ({ currentData }: { readonly currentData?: QueryAnswer | undefined }) => currentData?.documents.map((row) => (row as { identity: unknown }).identity);
  const { currentData: answer } = fused;
  const problem = fused.error ?? byWords.error ?? byMeaning.error;
  return {
    isSearching: fused.isFetching,
    problem: problem && problemText(problem),
    searched: pipelines && answer && { pipelines, answer, results: answer.documents as unknown as Found[], byWords: identities(byWords), byMeaning: identities(byMeaning) },
  };
} // prettier-ignore
