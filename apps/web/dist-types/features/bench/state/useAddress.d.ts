/** The address holds the text, the line and the view, so that reload and share work. */
export declare function useAddress(): void;
