import { type Extension } from '@codemirror/state';
/** Colours the notation with the tokens of its own grammar. Pipelines are short, so all of it at each change. */
export declare const highlighting: Extension;
