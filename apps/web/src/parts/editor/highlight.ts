import { RangeSetBuilder, type Extension, type Text } from '@codemirror/state';
import { Decoration, EditorView, ViewPlugin, type DecorationSet, type ViewUpdate } from '@codemirror/view';
import { definitionOf, stageKinds, tokenize, type Token, usualSurface } from '@zesty-sieve/core/language';

const clauseWords = new Set([
  'as',
  'in',
  'asc',
  'desc',
  'nulls',
  'first',
  'last',
  'on',
  'with',
  'keep',
  'empty',
  'position',
  'partition',
  'by',
  'order',
  'measure',
  'where',
  'to',
  'from',
  'seed',
  'true',
  'false',
  'null',
]);
const stageWordSet = new Set(stageKinds.flatMap((kind) => definitionOf(kind).words));

const mark = (name: string) => Decoration.mark({ class: `zs-${name}` });
const marks = {
  stage: mark('stage'),
  word: mark('word'),
  path: mark('path'),
  string: mark('string'),
  number: mark('number'),
  parameter: mark('parameter'),
  call: mark('call'),
  comment: mark('comment'),
  off: mark('off'),
};

/** The colour of a token, from the tokens around it. */
function markOf(tokens: readonly Token[], i: number, leading: boolean): Decoration | undefined {
  const token = tokens[i]!;
  const before = tokens[i - 1];
  const after = tokens[i + 1];
  switch (token.kind) {
    case 'comment':
      return marks.comment;
    case 'string':
    case 'broken':
      return marks.string;
    case 'number':
      return marks.number;
    case 'sign':
      if (token.text === '@' || token.text === '$') return marks.path;
      if (token.text === '.' && after?.kind === 'name' && after.from === token.to) return marks.path;
      return token.text === ':' && after?.kind === 'name' && after.from === token.to ? marks.parameter : undefined;
    case 'name':
      if (before?.kind === 'sign' && before.to === token.from && (before.text === '.' || before.text === '..')) return marks.path;
      if (before?.kind === 'sign' && before.text === ':' && before.to === token.from) return marks.parameter;
      if (leading && (stageWordSet.has(token.text) || token.text === 'off')) return marks.stage;
      if (after?.kind === 'sign' && after.text === '(' && after.from === token.to) return marks.call;
      return clauseWords.has(token.text) ? marks.word : undefined;
    default:
      return undefined;
  }
}

/** The stretches of one line of the notation with the class of each; what has none is plain. */
export function colouredLine(line: string): { readonly text: string; readonly className: string | undefined }[] {
  const parts: { text: string; className: string | undefined }[] = [];
  let at = 0;
  const tokens = tokenize(line, 0, line.length);
  let leading = !/^\s/.test(line);
  tokens.forEach((token, i) => {
    const found = token.from === token.to ? undefined : markOf(tokens, i, leading);
    if (token.kind !== 'name' || !stageWordSet.has(token.text)) leading = false;
    if (token.from > at) parts.push({ text: line.slice(at, token.from), className: undefined });
    parts.push({ text: line.slice(token.from, token.to), className: found?.spec.class as string | undefined });
    at = token.to;
  });
  return [...parts, { text: line.slice(at), className: undefined }];
}

function decorate(doc: Text): DecorationSet {
  const text = doc.toString();
  const builder = new RangeSetBuilder<Decoration>();
  const stageStarts = new Map(usualSurface.parse(text).stages.map((stage) => [stage.from, stage]));
  const tokens = tokenize(text, 0, text.length);
  let leading = false;
  let off = -1;
  tokens.forEach((token, i) => {
    const stage = stageStarts.get(token.from);
    if (stage !== undefined) {
      leading = true;
      off = stage.off ? stage.to : -1;
    }
    if (token.from === token.to) return;
    const found = token.from < off ? marks.off : markOf(tokens, i, leading);
    // The words of a stage stand at its beginning, one after another.
    if (token.kind !== 'name' || !(stageWordSet.has(token.text) || token.text === 'off')) leading = false;
    if (found) builder.add(token.from, token.to, found);
  });
  return builder.finish();
}

/** Colours the notation with the tokens of its own grammar. Pipelines are short, so all of it at each change. */
export const highlighting: Extension = ViewPlugin.fromClass(
  class {
    decorations: DecorationSet;
    constructor(view: EditorView) {
      this.decorations = decorate(view.state.doc);
    }
    update(update: ViewUpdate) {
      if (update.docChanged) this.decorations = decorate(update.state.doc);
    }
  },
  { decorations: (plugin) => plugin.decorations },
);
