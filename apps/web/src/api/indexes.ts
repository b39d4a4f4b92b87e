import type {
  Answer,
  Body,
  advice,
  checkState,
  collectionCheck,
  index,
  indexDefinition,
  indexList,
  indexSummary,
  indexUsers,
  whatIfRequest,
  whatIfResult,
} from '@zesty-sieve/contract';
import { at } from './apiUrl.ts';
import { api } from './base.ts';

/** Indexes, and what would help. */
export const indexesApi = api.injectEndpoints({
  endpoints: (build) => ({
    indexes: build.query<Answer<typeof indexList>, string>({
      query: (name) => `${at('collections', name)}/indexes`,
      providesTags: (_result, _error, name) => [{ type: 'Indexes', id: name }],
    }),
    createIndex: build.mutation<Answer<typeof index>, { collection: string } & Body<typeof indexDefinition>>({
      query: ({ collection, ...body }) => ({ url: `${at('collections', collection)}/indexes`, method: 'POST', body }),
      invalidatesTags: (_result, _error, { collection }) => [{ type: 'Indexes', id: collection }, 'Advice'],
    }),
    cancelBuild: build.mutation<void, { collection: string; name: string }>({
      query: ({ collection, name }) => ({ url: at('collections', collection, 'indexes', name, 'build'), method: 'DELETE' }),
    }),
    dropIndex: build.mutation<void, { collection: string; name: string }>({
      query: ({ collection, name }) => ({ url: at('collections', collection, 'indexes', name), method: 'DELETE' }),
      invalidatesTags: (_result, _error, { collection }) => [{ type: 'Indexes', id: collection }, 'Advice'],
    }),
    indexUsers: build.query<Answer<typeof indexUsers>['users'], { collection: string; name: string }>({
      query: ({ collection, name }) => at('collections', collection, 'indexes', name, 'users'),
      transformResponse: ({ users }: Answer<typeof indexUsers>) => users,
      keepUnusedDataFor: 0,
    }),
    indexSummary: build.query<Answer<typeof indexSummary>, { collection: string; name: string }>({
      query: ({ collection, name }) => at('collections', collection, 'indexes', name, 'summary'),
      providesTags: (_result, _error, { collection }) => [{ type: 'Indexes', id: collection }],
    }),
    advice: build.query<Answer<typeof advice>, void>({ query: () => '/advice', providesTags: ['Advice'], keepUnusedDataFor: 30 }),
    whatIf: build.mutation<Answer<typeof whatIfResult>, Body<typeof whatIfRequest>>({
      query: (body) => ({ url: '/what-if', method: 'POST', body }),
    }),
    checkState: build.query<Answer<typeof checkState>, string>({
      query: (name) => at('collections', name, 'check'),
      providesTags: (_result, _error, name) => [{ type: 'Checked', id: name }],
    }),
    checkIndexes: build.mutation<Answer<typeof collectionCheck>, string>({
      query: (name) => ({ url: at('collections', name, 'check'), method: 'POST' }),
      invalidatesTags: (_result, _error, name) => [
        { type: 'Checked', id: name },
        { type: 'Indexes', id: name },
      ],
    }),
    cancelCheck: build.mutation<void, string>({
      query: (name) => ({ url: at('collections', name, 'check'), method: 'DELETE' }),
    }),
  }),
});

export const {
  useIndexesQuery,
  useCreateIndexMutation,
  useCancelBuildMutation,
  useDropIndexMutation,
  useIndexUsersQuery,
  useIndexSummaryQuery,
  useAdviceQuery,
  useWhatIfMutation,
  useCheckStateQuery,
  useCheckIndexesMutation,
  useCancelCheckMutation,
} = indexesApi;
