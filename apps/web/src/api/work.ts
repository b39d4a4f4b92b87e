import type { Answer, workList } from '@zesty-sieve/contract';
import { apiUrl } from './apiUrl.ts';
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

const againMs = 200;

/**
 * Asks for work to end that has a name of one's own. What became of it is told by the answer to it, which is waited for: it may have been
 * done before.
 * @param isUnderWay whether that answer has not come yet: the server may not have got to what was asked
 * @returns whether the server knows that it is to end; `lost` where it does not answer
 */
export async function endTracked(track: string, isUnderWay: () => boolean): Promise<'asked' | 'over' | 'lost'> {
  while (isUnderWay()) {
    const response = await fetch(apiUrl('work', track), { method: 'DELETE' }).catch(() => undefined);
    if (response === undefined) return 'lost';
    if (response.ok) return 'asked';
    await new Promise((resolve) => setTimeout(resolve, againMs));
  }
  return 'over';
}

export const { useWorkQuery, useEndWorkMutation } = workApi;
