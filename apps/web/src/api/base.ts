import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react';
import { apiUrl } from './apiUrl.ts';
import { followRenaming } from './database.ts';

export const json = { 'content-type': 'application/json' };

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
  'Publications',
  'Databases',
  'Changes',
  'Expected',
  'Checked',
  'Work',
] as const;

const call = fetchBaseQuery({ baseUrl: apiUrl() });

/** The server's API; what can be asked of it stands in a file for each thing. What a change touches is fetched again by tag. */
export const api = createApi({
  reducerPath: 'api',
  baseQuery: async (...asked) => {
    const answer = await call(...asked);
    if (answer.error?.status === 404) followRenaming(answer.error.data);
    return answer;
  },
  tagTypes: everything,
  endpoints: () => ({}),
});
