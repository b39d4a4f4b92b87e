/** The pipeline's name, and the saved ones to open. */
export declare function SavedMenu(): import('react').JSX.Element;
