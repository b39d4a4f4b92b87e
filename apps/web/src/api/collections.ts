import type { Answer, Body, cleared, collection, collectionList, createCollection } from '@zesty-sieve/contract';
import { at } from './apiUrl.ts';
import { api } from './base.ts';

/** Collections themselves. */
export const collectionsApi = api.injectEndpoints({
  endpoints: (build) => ({
    collections: build.query<Answer<typeof collectionList>['collections'], void>({
      query: () => '/collections',
      transformResponse: ({ collections }: Answer<typeof collectionList>) => collections,
      providesTags: ['Collections'],
    }),
    createCollection: build.mutation<Answer<typeof collection>, Body<typeof createCollection>>({
      query: (body) => ({ url: '/collections', method: 'POST', body }),
      invalidatesTags: ['Collections'],
    }),
    removeCollection: build.mutation<void, string>({
      query: (name) => ({ url: at('collections', name), method: 'DELETE' }),
      invalidatesTags: ['Collections'],
    }),
    renameCollection: build.mutation<Answer<typeof collection>, { name: string; next: string }>({
      query: ({ name, next }) => ({ url: at('collections', name), method: 'PATCH', body: { name: next } }),
      invalidatesTags: ['Collections'],
    }),
    setIdentity: build.mutation<Answer<typeof collection>, { name: string; identity: string }>({
      query: ({ name, identity }) => ({ url: at('collections', name), method: 'PATCH', body: { identity } }),
      invalidatesTags: ['Collections'],
    }),
    clearCollection: build.mutation<Answer<typeof cleared>, string>({
      query: (name) => ({ url: at('collections', name, 'documents'), method: 'DELETE' }),
      invalidatesTags: (_result, _error, name) => ['Collections', { type: 'Documents', id: name }, { type: 'Shape', id: name }],
    }),
  }),
});

export const {
  useCollectionsQuery,
  useCreateCollectionMutation,
  useRemoveCollectionMutation,
  useRenameCollectionMutation,
  useSetIdentityMutation,
  useClearCollectionMutation,
} = collectionsApi;
