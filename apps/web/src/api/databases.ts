import type { DatabaseInfo, restoredDatabase } from '@zesty-sieve/contract';
import type { Answer } from '@zesty-sieve/contract';
import { api } from './base.ts';
import { databasesUrl } from './database.ts';

/** Databases: listed, made, renamed, removed, restored, copied between. */
export const databasesApi = api.injectEndpoints({
  endpoints: (build) => ({
    databases: build.query<readonly DatabaseInfo[], void>({
      query: () => databasesUrl(),
      transformResponse: ({ databases }: { databases: DatabaseInfo[] }) => databases,
      providesTags: ['Databases'],
    }),
    addDatabase: build.mutation<DatabaseInfo, string>({
      query: (name) => ({ url: databasesUrl(), method: 'POST', body: { name } }),
      invalidatesTags: ['Databases'],
    }),
    renameDatabase: build.mutation<DatabaseInfo, { name: string; next: string }>({
      query: ({ name, next }) => ({ url: databasesUrl(name), method: 'PATCH', body: { name: next } }),
      invalidatesTags: ['Databases'],
    }),
    removeDatabase: build.mutation<void, string>({
      query: (name) => ({ url: `${databasesUrl(name)}?name=${encodeURIComponent(name)}`, method: 'DELETE' }),
      invalidatesTags: ['Databases'],
    }),
    restoreDatabase: build.mutation<Answer<typeof restoredDatabase>, { name: string; file: Blob }>({
      query: ({ name, file }) => ({
        url: databasesUrl(name, 'restore'),
        method: 'POST',
        body: file,
        headers: { 'content-type': 'application/vnd.sqlite3' },
      }),
      invalidatesTags: ['Databases'],
    }),
  }),
});

export const {
  useDatabasesQuery,
  useAddDatabaseMutation,
  useRenameDatabaseMutation,
  useRemoveDatabaseMutation,
  useRestoreDatabaseMutation,
} = databasesApi;
