import { autocompletion, type CompletionContext, type CompletionResult } from '@codemirror/autocomplete';
import { sql, StandardSQL } from '@codemirror/lang-sql';
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language';
import { toggleComment } from '@codemirror/commands';
import { hoverTooltip, type EditorView } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { completeSql, describeField, formatSql, sqlFieldAt, type Environment } from '@zesty-sieve/core/language';
import { shown } from './completion.ts';
import { explained } from './hover.ts';
import type { EditorLanguage } from './languages.ts';

const colours = HighlightStyle.define([
  { tag: tags.keyword, class: 'zs-word' },
  { tag: [tags.string, tags.special(tags.string)], class: 'zs-string' },
  { tag: [tags.number, tags.bool, tags.null], class: 'zs-number' },
  { tag: [tags.comment, tags.lineComment, tags.blockComment], class: 'zs-comment' },
  { tag: [tags.propertyName, tags.name], class: 'zs-path' },
  { tag: tags.typeName, class: 'zs-call' },
]);

/** Puts the text into its layout: a clause a line. */
export function formatSqlIn(view: EditorView): boolean {
  const text = view.state.doc.toString();
  const insert = formatSql(text) + '\n';
  if (insert !== text) view.dispatch({ changes: { from: 0, to: text.length, insert }, selection: { anchor: Math.min(view.state.selection.main.head, insert.length) }, userEvent: 'input.format' }); // prettier-ignore
  return true;
}

function completions(environment: () => Environment) {
  const source = (context: CompletionContext): CompletionResult | null => {
    const found = completeSql(context.state.doc.toString(), context.pos, environment());
    if (found === undefined || found.options.length === 0) return null;
    const typed = context.state.sliceDoc(found.from, context.pos);
    // What is written in full already is not offered over the line below.
    if (!context.explicit && found.options.some(({ label }) => label.toUpperCase() === typed.toUpperCase())) return null;
    if (!context.explicit && typed === '' && !/(?:\.|\b(?:from|join|describe) )$/i.test(context.state.sliceDoc(0, context.pos)))
      return null;
    return { from: found.from, options: found.options.map(shown), validFor: /^[\w" ]*$/ };
  };
  return autocompletion({ override: [source], activateOnTyping: true, maxRenderedOptions: 60, icons: false, defaultKeymap: true });
}

/** Explains the column under the pointer. */
function hovers(environment: () => Environment) {
  return hoverTooltip((view, at) => {
    const word = view.state.wordAt(at);
    const field = word && sqlFieldAt(view.state.doc.toString(), word.from, environment());
    if (!field || word === null) return null;
    const { detail = '', info = '' } = describeField(field.info);
    return explained(word.from, word.to, [view.state.sliceDoc(word.from, word.to), detail, info]);
  });
}

/** SQL: clauses in its own order. */
export const sqlLanguage: EditorLanguage = {
  label: 'SQL',
  placeholder: 'SELECT … FROM …',
  keys: [
    { key: 'Shift-Alt-f', run: formatSqlIn },
    { key: 'Mod-/', run: toggleComment },
  ],
  extensions: (environment) => [
    sql({ dialect: StandardSQL, upperCaseKeywords: true }).language,
    syntaxHighlighting(colours),
    completions(environment),
    hovers(environment),
  ],
  onDrag: (view, from, down) => {
    down.preventDefault();
    view.dispatch({ selection: { anchor: view.state.doc.lineAt(from).to } });
    view.focus();
  },
};
