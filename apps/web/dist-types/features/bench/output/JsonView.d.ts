interface JsonViewProps {
  readonly value: unknown;
  /** Levels that are open at first. */
  readonly open?: number;
}
/** A JSON value that folds. */
export declare function JsonView({ value, open }: JsonViewProps): import('react').JSX.Element;
export {};
