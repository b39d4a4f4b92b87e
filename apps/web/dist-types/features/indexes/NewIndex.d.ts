/** Builds an index of keys written in the notation. */
export declare function NewIndex({ collection }: { collection: string }): import('react').JSX.Element;
