import type { CheckedStage } from '@zesty-sieve/core/language';

export interface StageFormProps {
  readonly checked: CheckedStage;
  /** Puts another text in place of the stage's own, from its word on. */
  readonly onText: (text: string) => void;
  /** The stage after it, and how that line is written, replaced or taken out along with this one. */
  readonly next: CheckedStage | undefined;
  readonly onNext: (text: string | undefined, replaces: CheckedStage | undefined) => void;
  /** Follows one document through the lines, where that can be asked. */
  readonly onTrace?: () => void;
}
