import type { Answer, documentPage, inserted, replacedDocuments } from '@zesty-sieve/contract';
import { at } from './apiUrl.ts';
import { api, json, touched } from './base.ts';

/** Single documents. */
export const documentsApi = api.injectEndpoints({
  endpoints: (build) => ({
    documents: build.query<Answer<typeof documentPage>, { collection: string; after?: number; size?: number }>({
      query: ({ collection, ...params }) => ({ url: `${at('collections', collection)}/documents`, params }),
      providesTags: (_result, _error, { collection }) => [{ type: 'Documents', id: collection }],
    }),
    addDocuments: build.mutation<Answer<typeof inserted>, { collection: string; body: string }>({
      query: ({ collection, body }) => ({ url: at('collections', collection, 'documents'), method: 'POST', body, headers: json }),
      invalidatesTags: (_result, _error, { collection }) => touched(collection),
    }),
    putDocuments: build.mutation<Answer<typeof replacedDocuments>, { collection: string; body: string }>({
      query: ({ collection, body }) => ({ url: at('collections', collection, 'documents'), method: 'PUT', body, headers: json }),
      invalidatesTags: (_result, _error, { collection }) => touched(collection),
    }),
    putDocument: build.mutation<unknown, { collection: string; identity: string; body: string; etag: string | null }>({
      query: ({ collection, identity, body, etag }) => ({
        url: at('collections', collection, 'documents', identity),
        method: 'PUT',
        body,
        headers: { ...json, ...(etag !== null && { 'if-match': etag }) },
      }),
      invalidatesTags: (_result, _error, { collection }) => touched(collection),
    }),
    removeDocument: build.mutation<void, { collection: string; identity: string; etag: string | null }>({
      query: ({ collection, identity, etag }) => ({
        url: at('collections', collection, 'documents', identity),
        method: 'DELETE',
        ...(etag !== null && { headers: { 'if-match': etag } }),
      }),
      invalidatesTags: (_result, _error, { collection }) => touched(collection),
    }),
  }),
});

export const { useDocumentsQuery, useAddDocumentsMutation, usePutDocumentsMutation, usePutDocumentMutation, useRemoveDocumentMutation } =
  documentsApi;
