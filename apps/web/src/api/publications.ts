import type { Publication, PublicationKey, PutPublication } from '@zesty-sieve/contract';
import { at } from './apiUrl.ts';
import { api } from './base.ts';

/** Publications, and their keys. */
export const publicationsApi = api.injectEndpoints({
  endpoints: (build) => ({
    publications: build.query<Publication[], void>({
      query: () => '/publications',
      transformResponse: ({ publications }: { publications: Publication[] }) => publications,
      providesTags: ['Publications'],
    }),
    putPublication: build.mutation<Publication, { name: string; body: PutPublication }>({
      query: ({ name, body }) => ({ url: at('publications', name), method: 'PUT', body }),
      invalidatesTags: ['Publications'],
    }),
    removePublication: build.mutation<void, string>({
      query: (name) => ({ url: at('publications', name), method: 'DELETE' }),
      invalidatesTags: ['Publications'],
    }),
    publicationKeys: build.query<PublicationKey[], string>({
      query: (name) => at('publications', name, 'keys'),
      transformResponse: ({ keys }: { keys: PublicationKey[] }) => keys,
      providesTags: ['Publications'],
    }),
    addKey: build.mutation<{ id: string; name: string; key: string }, { publication: string; name: string }>({
      query: ({ publication, name }) => ({ url: at('publications', publication, 'keys'), method: 'POST', body: { name } }),
      invalidatesTags: ['Publications'],
    }),
    removeKey: build.mutation<void, { publication: string; id: string }>({
      query: ({ publication, id }) => ({ url: at('publications', publication, 'keys', id), method: 'DELETE' }),
      invalidatesTags: ['Publications'],
    }),
  }),
});

export const {
  usePublicationsQuery,
  usePutPublicationMutation,
  useRemovePublicationMutation,
  usePublicationKeysQuery,
  useAddKeyMutation,
  useRemoveKeyMutation,
} = publicationsApi;
