import { createApi, fetchBaseQuery, type FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import type { Json } from '@zesty-sieve/core/language';
import type {
  StoreAnswer,
  StoreBody,
  Expectation,
  ExpectationCheck,
  FieldNote,
  OverlapInfo,
  ChangedDocumentInfo,
  ChangeInfo,
  PreviewAnswer,
  PreviewBody,
  ComparisonAnswer,
  GuardLimits,
  TraceAnswer,
  CheckState,
  CollectionCheck,
  CollectionInfo,
  IndexBuild,
  IndexInfo,
  IndexRequestBody,
  Measurement,
  PlanAnswer,
  PlanBody,
  Problem,
  Advice,
  IndexSummaryInfo,
  IndexUsers,
  KeptRunDetail,
  PairAnswer,
  PairBody,
  RunList,
  RunListQuery,
  Settings,
  WhatIfAnswer,
  WhatIfBody,
  RowsPage,
  RenamedPipeline,
  SavedPipeline,
  Shape,
} from '@zesty-sieve/contract';

const at = (...parts: string[]): string => '/' + parts.map(encodeURIComponent).join('/');

const json = { 'content-type': 'application/json' };

/** What is to be fetched again when documents of a collection have changed. */
export function touched(collection: string) {
  return [
    'Collections' as const,
    { type: 'Documents' as const, id: collection },
    { type: 'Shape' as const, id: collection },
    { type: 'Indexes' as const, id: collection },
    { type: 'Changes' as const, id: collection },
  ];
}

/** All that may be out of date when the server has been away. */
export const everything = [
  'Advice',
  'Runs',
  'Settings',
  'Collections',
  'Shape',
  'Documents',
  'Indexes',
  'Pipelines',
  'Changes',
  'Expected',
  'Checked',
] as const;

/** The server's API. What a change touches is fetched again by tag. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: fetchBaseQuery({ baseUrl: '/api' }),
  tagTypes: everything,
  endpoints: (build) => ({
    collections: build.query<CollectionInfo[], void>({
      query: () => '/collections',
      transformResponse: ({ collections }: { collections: CollectionInfo[] }) => collections,
      providesTags: ['Collections'],
    }),
    createCollection: build.mutation<CollectionInfo, { name: string; identity: string; scratch?: boolean }>({
      query: (body) => ({ url: '/collections', method: 'POST', body }),
      invalidatesTags: ['Collections'],
    }),
    removeCollection: build.mutation<void, string>({
      query: (name) => ({ url: at('collections', name), method: 'DELETE' }),
      invalidatesTags: ['Collections'],
    }),
    shape: build.query<Shape, string>({
      query: (name) => `${at('collections', name)}/shape`,
      providesTags: (_result, _error, name) => [{ type: 'Shape', id: name }],
      keepUnusedDataFor: 600,
    }),
    documents: build.query<
      { documents: unknown[]; hasMore: boolean; last: number | null },
      { collection: string; after?: number; size?: number }
    >({
      query: ({ collection, ...params }) => ({ url: `${at('collections', collection)}/documents`, params }),
      providesTags: (_result, _error, { collection }) => [{ type: 'Documents', id: collection }],
    }),
    indexes: build.query<{ indexes: IndexInfo[]; building: IndexBuild[] }, string>({
      query: (name) => `${at('collections', name)}/indexes`,
      providesTags: (_result, _error, name) => [{ type: 'Indexes', id: name }],
    }),
    createIndex: build.mutation<IndexInfo, { collection: string } & IndexRequestBody>({
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
    indexUsers: build.query<IndexUsers['users'], { collection: string; name: string }>({
      query: ({ collection, name }) => at('collections', collection, 'indexes', name, 'users'),
      transformResponse: ({ users }: IndexUsers) => users,
      keepUnusedDataFor: 0,
    }),
    indexSummary: build.query<IndexSummaryInfo, { collection: string; name: string }>({
      query: ({ collection, name }) => at('collections', collection, 'indexes', name, 'summary'),
      providesTags: (_result, _error, { collection }) => [{ type: 'Indexes', id: collection }],
    }),
    advice: build.query<Advice, void>({ query: () => '/advice', providesTags: ['Advice'], keepUnusedDataFor: 30 }),
    whatIf: build.mutation<WhatIfAnswer, WhatIfBody>({ query: (body) => ({ url: '/what-if', method: 'POST', body }) }),
    runs: build.query<RunList, RunListQuery>({ query: (params) => ({ url: '/runs', params }), providesTags: ['Runs'] }),
    run: build.query<KeptRunDetail, string>({ query: (id) => at('runs', id), providesTags: ['Runs'] }),
    setBaseline: build.mutation<void, { name: string; runId: string | null }>({
      query: ({ name, runId }) => ({ url: at('pipelines', name, 'baseline'), method: 'PUT', body: { runId } }),
      invalidatesTags: ['Runs'],
    }),
    measurePair: build.mutation<PairAnswer, PairBody>({ query: (body) => ({ url: '/measure/pair', method: 'POST', body }) }),
    settings: build.query<Settings, void>({ query: () => '/settings', providesTags: ['Settings'] }),
    setSettings: build.mutation<Settings, { guards?: Partial<GuardLimits>; runsKept?: number }>({
      query: (body) => ({ url: '/settings', method: 'PUT', body }),
      invalidatesTags: ['Settings'],
    }),
    plan: build.mutation<PlanAnswer, PlanBody>({ query: (body) => ({ url: '/plan', method: 'POST', body }) }),
    measure: build.mutation<Measurement, { pipeline: string; parameters?: Record<string, Json>; index: string; times?: number }>({
      query: (body) => ({ url: '/measure', method: 'POST', body }),
    }),
    rows: build.query<RowsPage, { runId: string; offset: number; size: number }>({
      query: ({ runId, ...params }) => ({ url: `${at('runs', runId)}/rows`, params }),
    }),
    compare: build.mutation<ComparisonAnswer, Record<'first' | 'second', { pipeline: string; parameters: Record<string, Json> }>>({
      query: (body) => ({ url: '/compare', method: 'POST', body }),
    }),
    trace: build.mutation<TraceAnswer, { pipeline: string; parameters: Record<string, Json>; identity: string }>({
      query: (body) => ({ url: '/trace', method: 'POST', body }),
    }),
    renameCollection: build.mutation<CollectionInfo, { name: string; next: string }>({
      query: ({ name, next }) => ({ url: at('collections', name), method: 'PATCH', body: { name: next } }),
      invalidatesTags: ['Collections'],
    }),
    setIdentity: build.mutation<CollectionInfo, { name: string; identity: string }>({
      query: ({ name, identity }) => ({ url: at('collections', name), method: 'PATCH', body: { identity } }),
      invalidatesTags: ['Collections'],
    }),
    setFieldNote: build.mutation<FieldNote, { collection: string } & FieldNote>({
      query: ({ collection, ...body }) => ({ url: at('collections', collection, 'fields'), method: 'PUT', body }),
      invalidatesTags: (_result, _error, { collection }) => [{ type: 'Shape', id: collection }],
    }),
    expectation: build.query<Expectation, string>({
      query: (name) => at('collections', name, 'expected'),
      providesTags: (_result, _error, name) => [{ type: 'Expected', id: name }],
    }),
    setExpectation: build.mutation<Expectation, { collection: string } & Expectation>({
      query: ({ collection, ...body }) => ({ url: at('collections', collection, 'expected'), method: 'PUT', body }),
      invalidatesTags: (_result, _error, { collection }) => [{ type: 'Expected', id: collection }],
    }),
    checkExpectation: build.mutation<ExpectationCheck, string>({
      query: (name) => ({ url: at('collections', name, 'expected', 'check'), method: 'POST' }),
    }),
    checkState: build.query<CheckState, string>({
      query: (name) => at('collections', name, 'check'),
      providesTags: (_result, _error, name) => [{ type: 'Checked', id: name }],
    }),
    checkIndexes: build.mutation<CollectionCheck, string>({
      query: (name) => ({ url: at('collections', name, 'check'), method: 'POST' }),
      invalidatesTags: (_result, _error, name) => [
        { type: 'Checked', id: name },
        { type: 'Indexes', id: name },
      ],
    }),
    cancelCheck: build.mutation<void, string>({
      query: (name) => ({ url: at('collections', name, 'check'), method: 'DELETE' }),
    }),
    overlaps: build.query<OverlapInfo[], { first: string; second: string }>({
      query: (body) => ({ url: '/overlaps', method: 'POST', body }),
      transformResponse: ({ pairs }: { pairs: OverlapInfo[] }) => pairs,
      providesTags: (_result, _error, { first, second }) => [
        { type: 'Shape', id: first },
        { type: 'Shape', id: second },
      ],
    }),
    clearCollection: build.mutation<{ removed: number }, string>({
      query: (name) => ({ url: at('collections', name, 'documents'), method: 'DELETE' }),
      invalidatesTags: (_result, _error, name) => ['Collections', { type: 'Documents', id: name }, { type: 'Shape', id: name }],
    }),
    addDocuments: build.mutation<{ inserted: number; identities: string[] }, { collection: string; body: string }>({
      query: ({ collection, body }) => ({ url: at('collections', collection, 'documents'), method: 'POST', body, headers: json }),
      invalidatesTags: (_result, _error, { collection }) => touched(collection),
    }),
    putDocuments: build.mutation<{ inserted: number; replaced: number }, { collection: string; body: string }>({
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
    previewChange: build.query<PreviewAnswer, PreviewBody>({
      query: (body) => ({ url: '/changes/preview', method: 'POST', body }),
      keepUnusedDataFor: 0,
    }),
    changes: build.query<ChangeInfo[], string>({
      query: (collection) => ({ url: '/changes', params: { collection } }),
      transformResponse: ({ changes }: { changes: ChangeInfo[] }) => changes,
      providesTags: (_result, _error, name) => [{ type: 'Changes', id: name }],
    }),
    changedDocuments: build.query<{ documents: ChangedDocumentInfo[]; hasMore: boolean }, { id: string; offset: number; size: number }>({
      query: ({ id, ...params }) => ({ url: `${at('changes', id)}/documents`, params }),
      providesTags: ['Changes'],
    }),
    undoChange: build.mutation<{ restored: number }, { id: string; collection: string }>({
      query: ({ id }) => ({ url: `${at('changes', id)}/undo`, method: 'POST' }),
      invalidatesTags: (_result, _error, { collection }) => touched(collection),
    }),
    storeRows: build.mutation<StoreAnswer, { runId: string } & StoreBody>({
      query: ({ runId, ...body }) => ({ url: `${at('runs', runId)}/store`, method: 'POST', body }),
      invalidatesTags: (_result, _error, { collection }) => touched(collection),
    }),
    savePipeline: build.mutation<
      SavedPipeline,
      {
        name: string;
        pipeline: string;
        view?: boolean;
        note?: string;
        parameters?: Record<string, Json>;
        guards?: Partial<GuardLimits>;
        chart?: Json;
      }
    >({
      query: ({ name, ...body }) => ({ url: at('pipelines', name), method: 'PUT', body }),
      invalidatesTags: ['Pipelines'],
    }),
    renamePipeline: build.mutation<RenamedPipeline, { name: string; next: string }>({
      query: ({ name, next }) => ({ url: at('pipelines', name), method: 'PATCH', body: { name: next } }),
      invalidatesTags: ['Pipelines'],
    }),
    removePipeline: build.mutation<void, string>({
      query: (name) => ({ url: at('pipelines', name), method: 'DELETE' }),
      invalidatesTags: ['Pipelines'],
    }),
    pipelines: build.query<SavedPipeline[], void>({
      query: () => '/pipelines',
      transformResponse: ({ pipelines }: { pipelines: SavedPipeline[] }) => pipelines,
      providesTags: ['Pipelines'],
    }),
  }),
});

export const {
  useStoreRowsMutation,
  useSetIdentityMutation,
  useSetFieldNoteMutation,
  useExpectationQuery,
  useSetExpectationMutation,
  useCheckExpectationMutation,
  useOverlapsQuery,
  useCheckStateQuery,
  useCheckIndexesMutation,
  useCancelCheckMutation,
  useRenameCollectionMutation,
  useClearCollectionMutation,
  useAddDocumentsMutation,
  usePutDocumentMutation,
  usePutDocumentsMutation,
  useRemoveDocumentMutation,
  useLazyPreviewChangeQuery,
  useChangesQuery,
  useChangedDocumentsQuery,
  useUndoChangeMutation,
  useCollectionsQuery,
  useCreateCollectionMutation,
  useRemoveCollectionMutation,
  useShapeQuery,
  useDocumentsQuery,
  useIndexesQuery,
  useCancelBuildMutation,
  useCreateIndexMutation,
  useDropIndexMutation,
  useMeasureMutation,
  usePipelinesQuery,
  useCompareMutation,
  useTraceMutation,
  useSavePipelineMutation,
  useRemovePipelineMutation,
  useRenamePipelineMutation,
  useLazyRowsQuery,
  useIndexUsersQuery,
  useIndexSummaryQuery,
  useAdviceQuery,
  useWhatIfMutation,
  useRunsQuery,
  useRunQuery,
  useSetBaselineMutation,
  useMeasurePairMutation,
  useSettingsQuery,
  useSetSettingsMutation,
  usePlanMutation,
} = api;

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
