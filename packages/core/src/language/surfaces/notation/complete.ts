import type { Completion, Completions } from '../../completions.ts';
import { descend, type FieldInfo, type FieldTree } from '../../../shape/fieldTree.ts';
import type { Kind } from '../../../values/kind.ts';
import { checkPipeline } from '../../checkPipeline.ts';
import type { Environment } from '../../environment.ts';
import { functionSignatures, type FunctionName } from '../../functions/signatures.ts';
import { signatureText } from '../../functions/signature.ts';
import { isPlainlyWritten, pathText } from './print.ts';
import { parsePipeline } from './parsePipeline.ts';
import { definitionOf, kindsFor, stageWords, type Purpose } from '../../stages/registry.ts';
import { tokenize, type Token } from './tokens.ts';

const valuePositions = new Set(['==', '!=', '<', '<=', '>', '>=', 'in', '[', ',', '(']);

/** What may be written at an offset of a text, half-typed as it may be. */
export function complete(text: string, offset: number, environment: Environment = {}): Completions | undefined {
  const pipeline = parsePipeline(text);
  const lineStart = text.lastIndexOf('\n', offset - 1) + 1;
  const line = text.slice(lineStart, offset);
  if (line.trimStart().startsWith('#')) return undefined;
  if (/^(?:off +)?[a-z ]*$/.test(line)) {
    const stages = stageCompletions(line, offset, environment.purpose);
    if (stages !== undefined) return stages;
  }
  const placed = pipeline.stages.findLast((stage) => stage.from <= offset);
  if (placed === undefined) return undefined;
  const tokens = tokenize(text, placed.wordFrom, offset).slice(0, -1);
  const last = tokens[tokens.length - 1];
  if (last === undefined || last.kind === 'comment') return undefined;
  if (tokens[0]!.text === 'from') return collectionCompletions(tokens, offset, environment);
  const joinAt = tokens.slice(0, 2).findIndex(({ text: word }) => word === 'join');
  if (joinAt >= 0 && tokens.length <= joinAt + 2 && !(tokens.length === joinAt + 2 && last.to < offset))
    return collectionCompletions(tokens.slice(joinAt), offset, environment);
  const checked = checkPipeline(pipeline, environment).stages.find((stage) => stage.placed === placed);
  const tree = checked?.before;
  return (
    (tree && fieldCompletions(text, tokens, offset, tree, partnerIn(text.slice(placed.wordFrom, offset), environment))) ??
    (tree && valueCompletions(tokens, offset, tree)) ??
    wordCompletions(tokens, offset)
  );
}

interface Partner {
  readonly name: string;
  readonly tree: FieldTree | undefined;
}

/** The partner of a join, half-typed as its condition may be. */
function partnerIn(stage: string, { shapeOf }: Environment): Partner | undefined {
  const found = /^(?:left\s+|gather\s+)?join\s+([\w-]+)\s+as\s+([\w.]+)\s+on\b/.exec(stage);
  if (found === null) return undefined;
  const [, source = '', target = ''] = found;
  return { name: target.split('.').pop() ?? target, tree: shapeOf?.(source) };
}

function stageCompletions(line: string, offset: number, purpose: Purpose = 'pipeline'): Completions | undefined {
  const typed = line.replace(/^off +/, '');
  if (typed.startsWith(' ')) return undefined;
  const options = kindsFor(purpose)
    .filter((kind) => stageWords(kind).startsWith(typed))
    .map((kind): Completion => ({
      label: stageWords(kind),
      kind: 'stage',
      detail: definitionOf(kind).example,
      info: definitionOf(kind).doc,
      insert: stageWords(kind) + ' ',
    }));
  return options.length === 0 ? undefined : { from: offset - typed.length, options };
}

function collectionCompletions(tokens: readonly Token[], offset: number, { collections }: Environment): Completions {
  const from = tokens.length > 1 ? tokens[1]!.from : offset;
  return { from, options: (collections ?? []).map((name) => ({ label: name, kind: 'collection' })) };
}

/** The field names of the path that ends at the cursor, and where the one being typed begins. */
function pathBefore(tokens: readonly Token[], offset: number, partner?: string): { names: string[]; from: number; at: number } | undefined {
  let i = tokens.length - 1;
  let from = offset;
  const isSign = (k: number, sign: string) => tokens[k]?.kind === 'sign' && tokens[k].text === sign;
  if (isSign(i, '@') || isSign(i, '$')) return tokens[i]!.to === offset ? { names: [], from: tokens[i]!.from, at: i } : undefined;
  if (tokens[i]!.kind === 'name' && tokens[i]!.to === offset && isSign(i - 1, '.')) from = tokens[i--]!.from;
  if (!isSign(i, '.') || tokens[i]!.to !== from) return undefined;
  const names: string[] = [];
  for (i--; i >= 0; i--) {
    if (isSign(i, '@') || isSign(i, '$')) return { names: names.reverse(), from, at: i };
    // A partner's name stands where a path begins.
    if (tokens[i]!.kind === 'name' && tokens[i]!.text === partner && !isSign(i - 1, '.')) return { names: names.reverse(), from, at: i };
    if (tokens[i]!.kind === 'name' && isSign(i - 1, '.')) {
      names.push(tokens[i]!.text);
      i--;
    } else if (isSign(i, ']') && isSign(i - 1, '*') && isSign(i - 2, '[')) {
      names.push('*');
      i -= 2;
    } else {
      return undefined;
    }
  }
  return undefined;
}

/** The tree at which `@` stands: an element of an array inside a filter, the row elsewhere. */
function currentTree(tokens: readonly Token[], at: number, tree: FieldTree): FieldTree | undefined {
  let depth = 0;
  for (let i = at - 1; i > 0; i--) {
    const token = tokens[i]!;
    if (token.kind !== 'sign') continue;
    if (token.text === ']' || token.text === ')') depth++;
    if (token.text === '(' && depth > 0) depth--;
    if (token.text === '[') {
      if (depth > 0) {
        depth--;
        continue;
      }
      if (tokens[i + 1]?.text !== '?') continue;
      const owner = pathBefore([...tokens.slice(0, i), { kind: 'sign', text: '.', from: token.from, to: token.from }], token.from);
      if (owner === undefined) return undefined;
      const base = tokens[owner.at]!.text === '$' ? tree : currentTree(tokens, owner.at, tree);
      return base && along(base, owner.names)?.element;
    }
  }
  return tree;
}

function along(tree: FieldTree, names: readonly string[]): FieldTree | undefined {
  return names.reduce<FieldTree | undefined>(
    (at, name) => (at === undefined ? undefined : name === '*' ? at.element : descend(at, [name])),
    tree,
  );
}

const shownDepth = 3;

function fieldCompletions(
  text: string,
  tokens: readonly Token[],
  offset: number,
  tree: FieldTree,
  partner?: Partner,
): Completions | undefined {
  const path = pathBefore(tokens, offset, partner?.name);
  if (path === undefined) return undefined;
  const root = tokens[path.at]!.text;
  const base = partner !== undefined && root === partner.name ? partner.tree : root === '$' ? tree : currentTree(tokens, path.at, tree);
  const at = base && along(base, path.names);
  if (at === undefined) return undefined;
  const options: Completion[] = [];
  const dotted = text[path.from] !== '@' && text[path.from] !== '$';
  const visit = (below: FieldTree, names: readonly string[]): void => {
    for (const [name, field] of below.fields) {
      const chain = [...names, name];
      const written = pathText(chain, root);
      // After a dot the dot itself stays, unless the name needs brackets.
      const insert = dotted ? (isPlainlyWritten(chain[0]!) ? written.slice(root.length + 1) : written.slice(root.length)) : written;
      options.push({ label: dotted ? insert : written, kind: 'field', insert, ...describeField(field.info) });
      if (chain.length < shownDepth) visit(field, chain);
    }
  };
  visit(at, []);
  return { from: path.from, options };
}

const kindOrder: readonly Kind[] = ['text', 'number', 'boolean', 'array', 'object', 'null'];

/** Types and presence of a field in a few words. */
export function describeField(info: FieldInfo | undefined): { detail?: string; info?: string } {
  if (info === undefined) return {};
  const kinds = kindOrder.filter((kind) => (info.types[kind] ?? 0) > 0).join(' or ');
  const share = info.presence >= 1 ? 'always' : `in ${percent(info.presence)}`;
  const example = info.example === undefined ? '' : JSON.stringify(info.example);
  const range =
    info.least === undefined || info.least === info.greatest ? '' : `${JSON.stringify(info.least)} to ${JSON.stringify(info.greatest)}. `;
  const noted = [info.note, info.unit && `in ${info.unit}`].filter(Boolean).join(', ');
  return { detail: `${kinds}, ${share}`, info: `${noted === '' ? '' : `${noted}. `}${range}For example ${example}` };
}

/** A share as a percentage that never rounds to none or all. */
function percent(share: number): string {
  const rounded = share > 0.995 ? Math.floor(share * 1000) / 10 : Math.ceil(share * 100);
  return `${rounded} %`;
}

/** After a comparison sign: the common values of the field compared. */
function valueCompletions(tokens: readonly Token[], offset: number, tree: FieldTree): Completions | undefined {
  let i = tokens.length - 1;
  let from = offset;
  if (tokens[i]!.to === offset && (tokens[i]!.kind === 'string' || tokens[i]!.kind === 'broken' || tokens[i]!.kind === 'name'))
    from = tokens[i--]!.from;
  if (i < 1 || !valuePositions.has(tokens[i]!.text)) return undefined;
  while (i > 0 && ['[', ',', '('].includes(tokens[i]!.text)) {
    i--;
    while (i > 0 && ['string', 'number'].includes(tokens[i]!.kind)) i--;
  }
  if (!valuePositions.has(tokens[i]!.text) && tokens[i]!.text !== 'in') return undefined;
  const field = tokens[i - 1];
  if (field?.kind !== 'name') return undefined;
  const path = pathBefore(tokens.slice(0, i), field.to);
  const base = path && (tokens[path.at]!.text === '$' ? tree : currentTree(tokens, path.at, tree));
  const info = path && base && along(base, [...path.names, field.text])?.info;
  if (!info || info.top.length === 0) return undefined;
  const options = info.top.map(({ value, count }): Completion => ({
    label: JSON.stringify(value),
    kind: 'value',
    detail: `${count.toLocaleString('en')} times`,
  }));
  return { from, options: [...options, ...functionCompletions] };
}

const functionCompletions: readonly Completion[] = (Object.keys(functionSignatures) as FunctionName[]).map((name) => ({
  label: name,
  kind: 'function',
  detail: signatureText(name, functionSignatures[name]).slice(name.length),
  info: functionSignatures[name].doc + ' ' + functionSignatures[name].example,
  insert: name + '(',
}));

const furtherWords: readonly Completion[] = ['in', 'as', 'asc', 'desc', 'nulls first', 'nulls last', 'true', 'false', 'null'].map(
  (label) => ({ label, kind: 'word' }),
);

function wordCompletions(tokens: readonly Token[], offset: number): Completions | undefined {
  const last = tokens[tokens.length - 1]!;
  if (last.kind !== 'name' || last.to !== offset || tokens.length < 2) return undefined;
  return { from: last.from, options: [...functionCompletions, ...furtherWords] };
}

/** What is known of the field whose name begins at an offset; undefined where no known field stands there. */
export function fieldAt(text: string, nameFrom: number, environment: Environment): FieldTree | undefined {
  const pipeline = parsePipeline(text);
  const placed = pipeline.stages.findLast((stage) => stage.from <= nameFrom);
  const tree = checkPipeline(pipeline, environment).stages.find((stage) => stage.placed === placed)?.before;
  if (placed === undefined || tree === undefined) return undefined;
  const tokens = tokenize(text, placed.wordFrom, nameFrom).slice(0, -1);
  const name = tokenize(text, nameFrom, placed.to)[0]!;
  if (tokens.length === 0 || name.kind !== 'name') return undefined;
  const path = pathBefore(tokens, nameFrom);
  const base = path && (tokens[path.at]!.text === '$' ? tree : currentTree(tokens, path.at, tree));
  return base && along(base, [...(path?.names ?? []), name.text]);
}
