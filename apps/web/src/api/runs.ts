import type {
  Answer,
  Body,
  keptRunDetail,
  pairRequest,
  pairResult,
  rowsPage,
  runList,
  runListQuery,
  settings,
  settingsChange,
  storeRequest,
  storeResult,
} from '@zesty-sieve/contract';
import { at } from './apiUrl.ts';
import { api, touched } from './base.ts';

/** Runs that are kept, their rows and their settings. */
export const runsApi = api.injectEndpoints({
  endpoints: (build) => ({
    runs: build.query<Answer<typeof runList>, Body<typeof runListQuery>>({
      query: (params) => ({ url: '/runs', params }),
      providesTags: ['Runs'],
    }),
    run: build.query<Answer<typeof keptRunDetail>, string>({ query: (id) => at('runs', id), providesTags: ['Runs'] }),
    setBaseline: build.mutation<void, { name: string; runId: string | null }>({
      query: ({ name, runId }) => ({ url: at('pipelines', name, 'baseline'), method: 'PUT', body: { runId } }),
      invalidatesTags: ['Runs'],
    }),
    measurePair: build.mutation<Answer<typeof pairResult>, Body<typeof pairRequest>>({
      query: (body) => ({ url: '/measure/pair', method: 'POST', body }),
    }),
    settings: build.query<Answer<typeof settings>, void>({ query: () => '/settings', providesTags: ['Settings'] }),
    setSettings: build.mutation<Answer<typeof settings>, Body<typeof settingsChange>>({
      query: (body) => ({ url: '/settings', method: 'PUT', body }),
      invalidatesTags: ['Settings'],
    }),
    rows: build.query<Answer<typeof rowsPage>, { runId: string; offset: number; size: number }>({
      query: ({ runId, ...params }) => ({ url: `${at('runs', runId)}/rows`, params }),
    }),
    storeRows: build.mutation<Answer<typeof storeResult>, { runId: string } & Body<typeof storeRequest>>({
      query: ({ runId, ...body }) => ({ url: `${at('runs', runId)}/store`, method: 'POST', body }),
      invalidatesTags: (_result, _error, { collection }) => touched(collection),
    }),
  }),
});

export const {
  useRunsQuery,
  useRunQuery,
  useSetBaselineMutation,
  useMeasurePairMutation,
  useSettingsQuery,
  useSetSettingsMutation,
  useLazyRowsQuery,
  useStoreRowsMutation,
} = runsApi;
