/** Loads a file into a collection: by choosing it, or by dropping it here. */
export declare function LoadPanel({ collection }: { collection: string }): import('react').JSX.Element;
