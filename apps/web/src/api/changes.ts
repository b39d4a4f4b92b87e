import type { Answer, Body, changeList, changedDocumentPage, previewRequest, previewResult, undoResult } from '@zesty-sieve/contract';
import { at } from './apiUrl.ts';
import { api, touched } from './base.ts';

/** Changes of many documents. */
export const changesApi = api.injectEndpoints({
  endpoints: (build) => ({
    previewChange: build.query<Answer<typeof previewResult>, Body<typeof previewRequest>>({
      query: (body) => ({ url: '/changes/preview', method: 'POST', body }),
      keepUnusedDataFor: 0,
    }),
    changes: build.query<Answer<typeof changeList>['changes'], string>({
      query: (collection) => ({ url: '/changes', params: { collection } }),
      transformResponse: ({ changes }: Answer<typeof changeList>) => changes,
      providesTags: (_result, _error, name) => [{ type: 'Changes', id: name }],
    }),
    changedDocuments: build.query<Answer<typeof changedDocumentPage>, { id: string; offset: number; size: number }>({
      query: ({ id, ...params }) => ({ url: `${at('changes', id)}/documents`, params }),
      providesTags: ['Changes'],
    }),
    undoChange: build.mutation<Answer<typeof undoResult>, { id: string; collection: string }>({
      query: ({ id }) => ({ url: `${at('changes', id)}/undo`, method: 'POST' }),
      invalidatesTags: (_result, _error, { collection }) => touched(collection),
    }),
  }),
});

export const { useLazyPreviewChangeQuery, useChangesQuery, useChangedDocumentsQuery, useLazyChangedDocumentsQuery, useUndoChangeMutation } =
  changesApi;
