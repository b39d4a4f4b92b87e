import type {
  Answer,
  Body,
  pipelineList,
  renamedPipeline,
  savePipeline,
  savedPipeline,
  whatIfRequest,
  whatIfResult,
} from '@zesty-sieve/contract';
import { at } from './apiUrl.ts';
import { api } from './base.ts';

/** What is advised goes by what is kept already. */
const touched = ['Pipelines', 'Advice'] as const;

/** Saved pipelines. */
export const pipelinesApi = api.injectEndpoints({
  endpoints: (build) => ({
    savePipeline: build.mutation<Answer<typeof savedPipeline>, { name: string } & Body<typeof savePipeline>>({
      query: ({ name, ...body }) => ({ url: at('pipelines', name), method: 'PUT', body }),
      invalidatesTags: touched,
    }),
    renamePipeline: build.mutation<Answer<typeof renamedPipeline>, { name: string; next: string }>({
      query: ({ name, next }) => ({ url: at('pipelines', name), method: 'PATCH', body: { name: next } }),
      invalidatesTags: touched,
    }),
    removePipeline: build.mutation<void, string>({
      query: (name) => ({ url: at('pipelines', name), method: 'DELETE' }),
      invalidatesTags: touched,
    }),
    cancelRefresh: build.mutation<void, string>({
      query: (name) => ({ url: at('pipelines', name, 'refresh'), method: 'DELETE' }),
      invalidatesTags: ['Pipelines'],
    }),
    /** What lines would be if their rows were kept; worked out now, so not asked for lightly. */
    ifKept: build.query<Answer<typeof whatIfResult>, Body<typeof whatIfRequest>['views']>({
      query: (views) => ({ url: '/what-if', method: 'POST', body: { views } }),
    }),
    pipelines: build.query<Answer<typeof pipelineList>['pipelines'], void>({
      query: () => '/pipelines',
      transformResponse: ({ pipelines }: Answer<typeof pipelineList>) => pipelines,
      providesTags: ['Pipelines'],
    }),
  }),
});

export const {
  useCancelRefreshMutation,
  useSavePipelineMutation,
  useRenamePipelineMutation,
  useRemovePipelineMutation,
  usePipelinesQuery,
  useIfKeptQuery,
} = pipelinesApi;
