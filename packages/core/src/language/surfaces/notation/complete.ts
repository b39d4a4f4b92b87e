import type { Completion, Completions } from '../../completions.ts';
import type { FieldTree } from '../../../shape/fieldTree.ts';
import { checkPipeline } from '../../checkPipeline.ts';
import { describeField } from '../../describeField.ts';
import type { Environment } from '../../environment.ts';
import { functionSignatures, type FunctionName } from '../../functions/signatures.ts';
import { signatureText } from '../../functions/signature.ts';
import { definitionOf, kindsFor, stageWords, type Purpose } from '../../stages/registry.ts';
import { comparedField, fieldNamed, pathAt, placeAtEnd, type CursorPlace } from './cursorPlace.ts';
import { isPlainlyWritten, pathText } from './print.ts';
import { parsePipeline } from './parsePipeline.ts';
import { tokenize } from './tokens.ts';

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
  // What is being typed gives way to what is taken.
  const isTyped = last.to === offset && (last.kind === 'name' || last.kind === 'string' || last.kind === 'broken');
  const from = isTyped ? last.from : offset;
  const before = checkPipeline(pipeline, environment).stages.find((stage) => stage.placed === placed)?.before;
  const place = placeAtEnd(tokenize(text, placed.wordFrom, from), before, environment);
  if (place?.wanted === 'source') return collectionCompletions(place.from, environment);
  const fields = place && fieldCompletions(place, text, from);
  const values = place && valueCompletions(place, from);
  return (
    fields ??
    values ??
    (isTyped && last.kind === 'name' && tokens.length > 1 ? { from, options: [...functionCompletions, ...furtherWords] } : undefined)
  );
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

function collectionCompletions(from: number, { collections }: Environment): Completions {
  return { from, options: (collections ?? []).map((name) => ({ label: name, kind: 'collection' })) };
}

const shownDepth = 3;

function fieldCompletions(place: CursorPlace, text: string, from: number): Completions | undefined {
  const path = pathAt(place);
  if (path?.tree === undefined) return undefined;
  const { root, tree } = path;
  const options: Completion[] = [];
  const dotted = text[from - 1] === '.';
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
  visit(tree, []);
  return { from: dotted ? from : from - root.length, options };
}

/** The common values of the field that is compared. */
function valueCompletions(place: CursorPlace, from: number): Completions | undefined {
  const info = comparedField(place)?.info;
  if (info === undefined || info.top.length === 0) return undefined;
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

/** What is known of the field whose name begins at an offset; undefined where no known field stands there. */
export function fieldAt(text: string, nameFrom: number, environment: Environment): FieldTree | undefined {
  const pipeline = parsePipeline(text);
  const placed = pipeline.stages.findLast((stage) => stage.from <= nameFrom);
  if (placed === undefined) return undefined;
  const before = checkPipeline(pipeline, environment).stages.find((stage) => stage.placed === placed)?.before;
  const name = tokenize(text, nameFrom, placed.to)[0]!;
  const place = placeAtEnd(tokenize(text, placed.wordFrom, nameFrom), before, environment);
  return place === undefined || name.kind !== 'name' ? undefined : fieldNamed(place, name.text);
}
