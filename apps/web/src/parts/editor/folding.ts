import { codeFolding, foldGutter, foldKeymap, foldService } from '@codemirror/language';
import type { EditorState, Extension } from '@codemirror/state';
import { keymap } from '@codemirror/view';
import { usualSurface } from '@zesty-sieve/core/language';

type Range = { readonly from: number; readonly to: number };

/**
 * What folds away below a line of the notation: the further lines of its stage; or, below a comment that stands alone, all up to the next
 * one that does, so that comments are the headings of a long pipeline.
 */
export function foldedBelow(text: string, line: { readonly from: number; readonly to: number; readonly text: string }): Range | null {
  const isHeading = (one: string): boolean => one.startsWith('#');
  if (isHeading(line.text)) {
    const rest = text.slice(line.to + 1).split('\n');
    const next = rest.findIndex(isHeading);
    const under = (next < 0 ? rest : rest.slice(0, next)).join('\n').trimEnd();
    return under === '' ? null : { from: line.to, to: line.to + 1 + under.length };
  }
  const stage = usualSurface.parse(text).stages.find(({ from }) => from >= line.from && from <= line.to);
  return stage !== undefined && stage.to > line.to ? { from: line.to, to: stage.to } : null;
}

const notationFolds = foldService.of((state: EditorState, from: number) => foldedBelow(state.doc.toString(), state.doc.lineAt(from)));

/** Lines fold away, by the sign before them or by keys. */
export const folding: Extension = [
  notationFolds,
  codeFolding({ placeholderText: '…' }),
  foldGutter({
    markerDOM: (isOpen) => {
      const sign = document.createElement('span');
      sign.className = 'zs-fold';
      sign.textContent = isOpen ? '▾' : '▸';
      sign.title = isOpen ? 'Fold away (Ctrl Shift [)' : 'Unfold (Ctrl Shift ])';
      return sign;
    },
  }),
  keymap.of(foldKeymap),
];
