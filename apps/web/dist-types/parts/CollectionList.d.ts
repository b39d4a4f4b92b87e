import type { ReactNode } from 'react';
/** The collections with their counts and sizes, each a link below an address. */
export declare function CollectionList({ base, children }: { base: string; children?: ReactNode }): import('react').JSX.Element;
