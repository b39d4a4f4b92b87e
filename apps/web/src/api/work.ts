import type { Answer, workList } from '@zesty-sieve/contract';
import { api } from './base.ts';

/** Work that takes long and is under way, whoever asked for it. */
export const workApi = api.injectEndpoints({
  endpoints: (build) => ({
    work: build.query<Answer<typeof workList>['work'], void>({
      query: () => '/work',
      transformResponse: ({ work }: Answer<typeof workList>) => work,
      providesTags: ['Work'],
    }),
    endWork: build.mutation<void, string>({
      query: (id) => ({ url: `/work/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Work'],
    }),
  }),
});

export const { useWorkQuery, useEndWorkMutation } = workApi;
