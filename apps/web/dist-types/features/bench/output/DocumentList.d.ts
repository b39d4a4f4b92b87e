import type { Rows } from './useRows.ts';
/** Rows as whole documents, one under another. */
export declare function DocumentList({ rows, more }: Pick<Rows, 'rows' | 'more'>): import('react').JSX.Element;
