import type { Answer, Body, expectation, expectationCheck, fieldNote, overlapList, overlapRequest, shape } from '@zesty-sieve/contract';
import { at } from './apiUrl.ts';
import { api } from './base.ts';

/** What documents look like, and what is expected of them. */
export const shapesApi = api.injectEndpoints({
  endpoints: (build) => ({
    shape: build.query<Answer<typeof shape>, string>({
      query: (name) => `${at('collections', name)}/shape`,
      providesTags: (_result, _error, name) => [{ type: 'Shape', id: name }],
      keepUnusedDataFor: 600,
    }),
    setFieldNote: build.mutation<Answer<typeof fieldNote>, { collection: string } & Body<typeof fieldNote>>({
      query: ({ collection, ...body }) => ({ url: at('collections', collection, 'fields'), method: 'PUT', body }),
      invalidatesTags: (_result, _error, { collection }) => [{ type: 'Shape', id: collection }],
    }),
    expectation: build.query<Answer<typeof expectation>, string>({
      query: (name) => at('collections', name, 'expected'),
      providesTags: (_result, _error, name) => [{ type: 'Expected', id: name }],
    }),
    setExpectation: build.mutation<Answer<typeof expectation>, { collection: string } & Body<typeof expectation>>({
      query: ({ collection, ...body }) => ({ url: at('collections', collection, 'expected'), method: 'PUT', body }),
      invalidatesTags: (_result, _error, { collection }) => [{ type: 'Expected', id: collection }],
    }),
    checkExpectation: build.mutation<Answer<typeof expectationCheck>, string>({
      query: (name) => ({ url: at('collections', name, 'expected', 'check'), method: 'POST' }),
    }),
    overlaps: build.query<Answer<typeof overlapList>, Body<typeof overlapRequest>>({
      query: (body) => ({ url: '/overlaps', method: 'POST', body }),
      providesTags: (_result, _error, { first, second }) => [
        { type: 'Shape', id: first },
        { type: 'Shape', id: second },
      ],
    }),
  }),
});

export const {
  useShapeQuery,
  useSetFieldNoteMutation,
  useExpectationQuery,
  useSetExpectationMutation,
  useCheckExpectationMutation,
  useOverlapsQuery,
} = shapesApi;
