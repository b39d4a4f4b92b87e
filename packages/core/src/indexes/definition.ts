import type { Direction } from '../values/order.ts';
import { printOrderKey } from '../language/stages/order.ts';
import { parseOrderKeyText } from '../language/surfaces/notation/orderKeys.ts';
import { parseConditionText } from '../language/surfaces/notation/texts.ts';
import { isLanguageName, languageNames, type LanguageName } from '../words/languageNames.ts';
import { findings } from '../language/diagnostics/findings.ts';
import { nowhere, type Places } from '../language/places.ts';
import { changingPart, fromCurrent } from '../language/rowRoots.ts';
import { isSingle, type Expression } from '../language/tree.ts';
import type { Finding } from '../language/diagnostics/diagnostic.ts';
import { printExpression } from '../language/surfaces/notation/print.ts';

/** The kinds of indexes by name; what each is stands in `kinds.ts`. */
export type IndexKindName = 'ordered' | 'text' | 'place' | 'vector';

/** How near two vectors are to each other. */
export const metricNames = ['cosine', 'dot', 'euclidean'] as const;
export type Metric = (typeof metricNames)[number];

/** An index as it is asked for: keys and condition in the notation. */
export interface IndexRequest {
  readonly name?: string;
  readonly keys: readonly string[];
  readonly kind?: IndexKindName;
  readonly unique?: boolean;
  /** Of a text index: the language of its stems and stop words. */
  readonly language?: LanguageName;
  /** Of a vector index: what it is near by, how many links a vector has, and how many candidates are looked at for them. */
  readonly metric?: Metric;
  readonly links?: number;
  readonly buildEffort?: number;
  readonly where?: string;
}

export interface IndexKey {
  /** The canonical text of the key's expression, without its direction. */
  readonly text: string;
  readonly expression: Expression;
  readonly direction: Direction;
  /** Whether it selects several values, each with an entry of its own. */
  readonly several: boolean;
}

/** An index whose texts have been read. */
export interface IndexDefinition {
  readonly name: string;
  readonly kind: IndexKindName;
  readonly keys: readonly IndexKey[];
  readonly unique: boolean;
  readonly language: LanguageName | undefined;
  /** Of a vector index. */
  readonly vector?: { readonly metric: Metric; readonly links: number; readonly buildEffort: number } | undefined;
  readonly where: Expression | undefined;
}

/** Why an index cannot be made: a finding in one of its texts, or in the whole. */
export class IndexProblem extends Error {
  readonly finding: Finding | undefined;
  constructor(message: string, finding?: Finding) {
    super(message);
    this.finding = finding;
  }
}

/**
 * Reads the texts of an index.
 * @throws IndexProblem where a key or the condition is not of the notation
 */
export function readDefinition(request: IndexRequest): IndexDefinition {
  if (request.keys.length === 0) throw new IndexProblem('An index needs one key at least.');
  const keys = request.keys.map((text): IndexKey => {
    const read = parseOrderKeyText(text);
    if ('finding' in read) throw new IndexProblem(`The key ${text}: ${read.finding.message}`, read.finding);
    const { direction } = read.key;
    const expression = fromCurrent(read.key.expression);
    rejectChanging(`The key ${text}`, expression, read.places);
    return { text: printExpression(expression), expression, direction, several: expression.kind === 'path' && !isSingle(expression) };
  });
  const repeated = keys.find((key, i) => keys.findIndex((other) => other.text === key.text) < i);
  if (repeated) throw new IndexProblem(`The key ${repeated.text} is given twice.`);
  let where: Expression | undefined;
  if (request.where !== undefined && request.where.trim() !== '') {
    const read = parseConditionText(request.where);
    if ('finding' in read) throw new IndexProblem(`The condition: ${read.finding.message}`, read.finding);
    rejectChanging('The condition', read.expression, read.places);
    where = fromCurrent(read.expression);
  }
  const { language, kind = 'ordered' } = request;
  if (language !== undefined && !isLanguageName(language)) throw new IndexProblem(`A language is one of ${languageNames.join(', ')}.`);
  if (language !== undefined && kind !== 'text') throw new IndexProblem('A language is given to a text index alone.');
  const vector = kind === 'vector' ? vectorPart(request) : undefined;
  if (vector === undefined && request.metric !== undefined) throw new IndexProblem('A metric is given to a vector index alone.');
  const name = request.name?.trim() || defaultName(keys, where) + (kind === 'ordered' ? '' : `_${kind}`);
  return { name, kind, keys, unique: request.unique ?? false, where, language, ...(vector && { vector }) };
}

function vectorPart({ metric = 'cosine', links = 16, buildEffort = 200 }: IndexRequest): NonNullable<IndexDefinition['vector']> {
  if (!metricNames.includes(metric)) throw new IndexProblem(`A metric is one of ${metricNames.join(', ')}.`);
  if (!Number.isInteger(links) || links < 2 || links > 64) throw new IndexProblem('A vector has 2 to 64 links.');
  if (!Number.isInteger(buildEffort) || buildEffort < links || buildEffort > 2_000) throw new IndexProblem('The effort of building is from the number of links to 2,000.'); // prettier-ignore
  return { metric, links, buildEffort };
}

/** An index is the same for ever, so nothing in it may depend on who asks, or when. */
function rejectChanging(what: string, expression: Expression, places: Places): void {
  const found = changingPart(expression);
  if (found !== undefined)
    throw new IndexProblem(
      `${what}: ${printExpression(found)} is not the same for ever. An index takes neither parameters nor now(): write the value itself.`,
      { ...findings.changingKey(places.of(found), printExpression(found)) },
    );
}

/** `@.status, @.arrivesOn desc` becomes `status_arrivesOn_desc`. */
function defaultName(keys: readonly IndexKey[], where: Expression | undefined): string {
  const part = ({ text, direction }: IndexKey) =>
    text.replace(/[^\p{L}\p{N}_]+/gu, '_').replace(/^_+|_+$/g, '') + (direction === 'desc' ? '_desc' : '');
  return (
    keys.map(part).join('_') + (where === undefined ? '' : '_where_' + part({ text: printExpression(where), direction: 'asc' } as IndexKey))
  );
}

/** The keys as they are written. */
export function keyTexts(definition: Pick<IndexDefinition, 'keys'>): string[] {
  return definition.keys.map(({ expression, direction }) => printOrderKey({ expression, direction, nulls: 'last', id: nowhere }));
}
