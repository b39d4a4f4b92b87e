import type { Rows } from './useRows.ts';
/** Rows as a table. Only what is in sight is drawn; nested values open on a click. */
export declare function RowTable({ rows, more, isLoading }: Rows): import('react').JSX.Element;
