import type { Extension } from '@codemirror/state';
import type { EditorView, KeyBinding } from '@codemirror/view';
import type { Environment } from '@zesty-sieve/core/language';
import { duplicateStage, format, moveStage, toggleOff } from './commands.ts';
import { completions } from './completion.ts';
import { dedent } from './dedent.ts';
import { folding } from './folding.ts';
import { beginDrag } from './drag.ts';
import { highlighting } from './highlight.ts';
import { hovers } from './hover.ts';

/** What one face of the language brings to the editor. */
export interface EditorLanguage {
  /** What the editor is called by who only hears it. */
  readonly label: string;
  readonly placeholder: string;
  readonly keys: readonly KeyBinding[];
  readonly extensions: (environment: () => Environment) => Extension;
  /** Told of a press in the margin, with where the line begins. */
  readonly onDrag: (view: EditorView, from: number, down: MouseEvent) => void;
}

/** The notation: a stage a line, which can be moved and switched off. */
export const notationLanguage: EditorLanguage = {
  label: 'Pipeline',
  placeholder: 'from a collection …',
  keys: [
    { key: 'Mod-/', run: toggleOff },
    { key: 'Alt-ArrowUp', run: moveStage(-1) },
    { key: 'Alt-ArrowDown', run: moveStage(1) },
    { key: 'Shift-Alt-f', run: format },
    { key: 'Shift-Alt-ArrowDown', run: duplicateStage },
  ],
  extensions: (environment) => [dedent, folding, highlighting, completions(environment), hovers(environment)],
  onDrag: beginDrag,
};
