import { type Extension } from '@codemirror/state';
import type { Diagnostic } from '@zesty-sieve/core/language';
export declare const setFindings: import('@codemirror/state').StateEffectType<readonly Diagnostic[]>;
export declare const findingsDisplay: Extension;
