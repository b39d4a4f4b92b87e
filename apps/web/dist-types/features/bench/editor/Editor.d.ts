import type { Diagnostic, Environment } from '@zesty-sieve/core/language';
import { type MarginData } from './margin.ts';
export interface EditorProps {
  readonly text: string;
  /** Grows when `text` is to replace what stands in the editor. */
  readonly loaded: number;
  readonly cursorLine: number;
  readonly environment: Environment;
  readonly margin: MarginData;
  readonly diagnostics: readonly Diagnostic[];
  readonly onText: (text: string) => void;
  readonly onLine: (line: number) => void;
  readonly onRun: () => void;
}
/** The editor of the notation, with the margin beside its lines. */
export declare function Editor(props: EditorProps): import('react').JSX.Element;
