import type { Extension } from '@codemirror/state';
import { type Environment } from '@zesty-sieve/core/language';
/** Offers what the language says may stand at the cursor. */
export declare function completions(environment: () => Environment): Extension;
