/** The collections: what they hold, what their documents are like, and loading more. */
export declare function DataScreen(): import('react').JSX.Element;
