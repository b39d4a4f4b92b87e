/** The one band over all screens, with the screens as words. */
export declare function Frame(): import('react').JSX.Element;
