export interface PullOutProps {
  /** What is pulled out, in words: “lines 1 to 3”. */
  readonly lines: string;
  readonly text: string;
  readonly onDone: (name: string) => void;
}
