/** The indexes of a collection: what there is, building one, dropping one. */
export declare function IndexesScreen(): import('react').JSX.Element;
