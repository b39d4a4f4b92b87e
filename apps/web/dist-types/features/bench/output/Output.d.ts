interface OutputProps {
  readonly onRun: () => void;
  readonly onBuild: (keys: readonly string[]) => void;
}
/** What comes out at the cursor's line: the rows, or why there are none. The last good rows stay, dimmed. */
export declare function Output({ onRun, onBuild }: OutputProps): import('react').JSX.Element;
/** The words over the output: after which line, and how many. */
export declare function OutputTitle(): import('react').JSX.Element;
export declare function Title({ main, more, strong }: { main: string; more?: string; strong?: boolean }): import('react').JSX.Element;
export {};
