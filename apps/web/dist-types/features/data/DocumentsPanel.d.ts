/** The documents of a collection in insertion order, a page after another as they are scrolled to. */
export declare function DocumentsPanel({ collection }: { collection: string }): import('react').JSX.Element;
