import type { Command, EditorView } from '@codemirror/view';
/** Switches the stage at the cursor off, or on again. */
export declare const toggleOff: Command;
/** Moves the stage at the cursor, with its continuation lines, past its neighbour. */
export declare function moveStage(by: -1 | 1): Command;
/** Puts the text into its canonical layout, where it can be read. */
export declare function format(view: EditorView): boolean;
