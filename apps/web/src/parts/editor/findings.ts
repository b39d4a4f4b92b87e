import { StateEffect, StateField, type EditorState, type Extension, type Range } from '@codemirror/state';
import { Decoration, EditorView, WidgetType, type DecorationSet } from '@codemirror/view';
import type { Diagnostic } from '@zesty-sieve/core/language';

export const setFindings = StateEffect.define<readonly Diagnostic[]>();

/** A diagnostic in words under its line, with its mend as a button. */
class FindingWidget extends WidgetType {
  private readonly diagnostic: Diagnostic;
  constructor(diagnostic: Diagnostic) {
    super();
    this.diagnostic = diagnostic;
  }

  override eq(other: FindingWidget): boolean {
    const [a, b] = [this.diagnostic, other.diagnostic];
    return a.code === b.code && a.message === b.message && a.from === b.from && a.to === b.to;
  }

  toDOM(view: EditorView): HTMLElement {
    const { severity, message, mend } = this.diagnostic;
    const row = document.createElement('div');
    row.className = `zs-finding is-${severity}`;
    row.setAttribute('role', severity === 'error' ? 'alert' : 'status');
    const words = document.createElement('span');
    words.textContent = message;
    row.append(words);
    if (mend) {
      const button = document.createElement('button');
      button.type = 'button';
      button.textContent = mend.label;
      button.onclick = () => {
        view.dispatch({ changes: mend.edits.map(({ from, to, insert }) => ({ from, to, insert })), userEvent: 'input.mend' });
        view.focus();
      };
      row.append(button);
    }
    return row;
  }

  override ignoreEvent(): boolean {
    return true;
  }
}

function decorationsOf(state: EditorState, diagnostics: readonly Diagnostic[]): DecorationSet {
  const ranges: Range<Decoration>[] = [];
  for (const diagnostic of diagnostics) {
    const to = Math.min(diagnostic.to, state.doc.length);
    const from = Math.min(diagnostic.from, to);
    if (to > from) ranges.push(Decoration.mark({ class: `zs-wrong is-${diagnostic.severity}` }).range(from, to));
    const end = state.doc.lineAt(to).to;
    ranges.push(Decoration.widget({ widget: new FindingWidget(diagnostic), block: true, side: 1 }).range(end));
  }
  return Decoration.set(ranges, true);
}

/** While the text is changed, what was found stays with its place; spans that no longer stand are dropped at the next check. */
const findingsField = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update(decorations, transaction) {
    let next = transaction.docChanged ? Decoration.none : decorations;
    for (const effect of transaction.effects) if (effect.is(setFindings)) next = decorationsOf(transaction.state, effect.value);
    return next;
  },
  provide: (field) => EditorView.decorations.from(field),
});

export const findingsDisplay: Extension = findingsField;
