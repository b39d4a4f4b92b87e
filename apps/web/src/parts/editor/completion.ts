import {
  autocompletion,
  startCompletion,
  type Completion as Shown,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete';
import type { Extension, Text } from '@codemirror/state';
import type { EditorView } from '@codemirror/view';
import { type Completion, type Environment, usualSurface } from '@zesty-sieve/core/language';
import { templateOf } from './templates.ts';

const order: Record<Completion['kind'], number> = { field: 5, value: 4, collection: 4, stage: 3, parameter: 2, function: 1, word: 0 };

/** Where nothing could be offered; fields may be known a moment later. */
const missedAt = new WeakMap<Text, number>();

/** Offers what the language says may stand at the cursor. */
export function completions(environment: () => Environment): Extension {
  const source = (context: CompletionContext): CompletionResult | null => {
    const found = usualSurface.complete(context.state.doc.toString(), context.pos, environment());
    if (found === undefined || found.options.length === 0) {
      missedAt.set(context.state.doc, context.pos);
      return null;
    }
    const typed = context.state.sliceDoc(found.from, context.pos);
    if (!context.explicit && typed === '' && !/[.@ ]$/.test(context.state.sliceDoc(0, context.pos))) return null;
    const stages = found.options.filter(({ kind }) => kind === 'stage');
    const options = [...found.options.map(shown), ...stages.flatMap(({ label }) => templateOf(label))];
    return { from: found.from, options, validFor: /^[@$\w.'"[\]*-]*$/ };
  };
  return autocompletion({ override: [source], activateOnTyping: true, maxRenderedOptions: 60, icons: false, defaultKeymap: true });
}

/** To be called when more is known of the collections: offers what could not be offered where the cursor still is. */
export function offerMissed(view: EditorView): void {
  const { doc, selection } = view.state;
  if (view.hasFocus && missedAt.get(doc) === selection.main.head) startCompletion(view);
}

/** A completion as the editor shows it. */
export function shown({ label, kind, detail, info, insert }: Completion): Shown {
  return {
    label,
    type: kind,
    boost: order[kind],
    ...(detail !== undefined && { detail }),
    ...(info !== undefined && { info }),
    apply: (view: EditorView, _completion: Shown, from: number, to: number) => {
      const text = insert ?? label;
      view.dispatch({ changes: { from, to, insert: text }, selection: { anchor: from + text.length }, userEvent: 'input.complete' });
      // After a stage's word or a bracket there is more to offer at once.
      if (kind === 'stage') startCompletion(view);
    },
  };
}
