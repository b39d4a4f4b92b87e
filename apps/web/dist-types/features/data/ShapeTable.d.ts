/** Every field path of a collection, with its types, how often it is there, and what its values are like. */
export declare function ShapeTable({ collection }: { collection: string }): import('react').JSX.Element;
