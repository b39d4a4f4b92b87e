import type {
  Answer,
  Body,
  compareRequest,
  compareResult,
  measureRequest,
  measureResult,
  originsRequest,
  originsResult,
  planRequest,
  planResult,
  traceRequest,
  traceResult,
} from '@zesty-sieve/contract';
import { api } from './base.ts';

/** Questions that are answered once. */
export const askingApi = api.injectEndpoints({
  endpoints: (build) => ({
    plan: build.mutation<Answer<typeof planResult>, Body<typeof planRequest>>({
      query: (body) => ({ url: '/plan', method: 'POST', body }),
    }),
    loop: build.query<string, Body<typeof planRequest>>({
      query: (body) => ({ url: '/plan?show=loop', method: 'POST', body, responseHandler: 'text' }),
      // It is the plan of a moment: documents and indexes change.
      keepUnusedDataFor: 0,
    }),
    measure: build.mutation<Answer<typeof measureResult>, Body<typeof measureRequest>>({
      query: (body) => ({ url: '/measure', method: 'POST', body }),
    }),
    compare: build.mutation<Answer<typeof compareResult>, Body<typeof compareRequest>>({
      query: (body) => ({ url: '/compare', method: 'POST', body }),
    }),
    origins: build.query<Answer<typeof originsResult>, Body<typeof originsRequest>>({
      query: (body) => ({ url: '/origins', method: 'POST', body }),
      // Documents change.
      keepUnusedDataFor: 0,
    }),
    trace: build.mutation<Answer<typeof traceResult>, Body<typeof traceRequest>>({
      query: (body) => ({ url: '/trace', method: 'POST', body }),
    }),
  }),
});

export const { usePlanMutation, useLoopQuery, useMeasureMutation, useOriginsQuery, useCompareMutation, useTraceMutation } = askingApi;
