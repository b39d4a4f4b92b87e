import type { analyseRequest, analysed, Answer, Body, queryRequest, queryResult } from '@zesty-sieve/contract';
import { api } from './base.ts';

/** Questions of the Search screen: pipelines, and how texts are seen. */
export const searchingApi = api.injectEndpoints({
  endpoints: (build) => ({
    /** A pipeline's answer for as long as the same is asked; `once` asks it again. */
    answer: build.query<Answer<typeof queryResult>, Body<typeof queryRequest> & { once?: number }>({
      query: ({ once: _once, ...body }) => ({ url: '/query', method: 'POST', body }),
      keepUnusedDataFor: 60,
    }),
    analysed: build.query<Answer<typeof analysed>, Body<typeof analyseRequest>>({
      query: (body) => ({ url: '/analyse', method: 'POST', body }),
      keepUnusedDataFor: 60,
    }),
  }),
});

export const { useAnswerQuery, useAnalysedQuery } = searchingApi;
