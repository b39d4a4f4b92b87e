import { printExpression } from '../../language/surfaces/notation/print.ts';
import type { Expression } from '../../language/tree.ts';
import type { DocumentStore } from '../../storage/store.ts';
import type { Metric } from '../definition.ts';
import type { Asked, IndexCheck, IndexKind, PositionsAccess } from '../kind.ts';
import { measureRecall } from './measureRecall.ts';
import { scoredVectors } from './scored.ts';
import { VectorIndex } from './vectorIndex.ts';

interface AskedVector {
  readonly metric: Metric;
  readonly path: string;
  readonly vector: Expression;
}

/** What each function compares vectors by. */
export const metrics: Readonly<Record<string, Metric>> = {
  cosine_similarity: 'cosine',
  dot_product: 'dot',
  euclidean_distance: 'euclidean',
};

/** What an expression scores by: a metric between a path and a constant; distances with a minus, since the nearest score highest. */
function askedVector(expression: Expression, isConstant: Asked['isConstant']): AskedVector | undefined {
  const isNegated = expression.kind === 'negation';
  const call = isNegated ? expression.operand : expression;
  if (call.kind !== 'call') return undefined;
  const metric = metrics[call.name];
  if (metric === undefined || isNegated !== (metric === 'euclidean')) return undefined;
  const [a, b] = call.arguments;
  const [path, vector] = a?.kind === 'path' ? [a, b] : [b, a];
  if (path?.kind !== 'path' || path.segments.length === 0 || path.root.kind === 'partner' || vector === undefined || !isConstant(vector)) return undefined;
  return { metric, path: printExpression({ ...path, root: { kind: 'current' } }), vector };
} // prettier-ignore

/** About how many vectors a walk compares for each candidate of its effort. */
const comparedEach = 24;

const access: PositionsAccess<VectorIndex> = {
  by: 'positions',
  match: () => 'vectors are compared by best alone',
  find: () => [],
  candidates: () => [],
  scoring: {
    serves: (definition, expression, isConstant) => {
      const asked = askedVector(expression, isConstant);
      return asked !== undefined && asked.metric === definition.vector?.metric && asked.path === definition.keys[0]!.text;
    },
    candidate: (expression, isConstant) => {
      const asked = askedVector(expression, isConstant);
      return asked && { keys: [asked.path], metric: asked.metric };
    },
    about: (index, _expression, { effort }) => ({
      documents: effort === undefined ? index.entries : Math.min(index.entries, effort),
      entries: effort === undefined ? index.entries : Math.min(index.entries, effort * comparedEach),
    }),
    score: (index, expression, options) => scoredVectors(index, options.valueOf(askedVector(expression, () => true)!.vector), options),
    isApproximate: (effort) => effort !== undefined,
  },
};

/** Every document's vector against the one that is kept. */
function* check(index: VectorIndex, store: DocumentStore): Generator<number, IndexCheck> {
  let missing = 0;
  let misplaced = 0;
  let expected = 0;
  for (let position = 0; position < store.documents.length; position++) {
    if (position % 1_000 === 0) yield position / store.documents.length;
    const document = store.documents[position];
    const wanted = document && index.packedOf(document);
    const node = index.nodeAt(position);
    if (wanted !== undefined) expected++;
    if (wanted !== undefined && node === undefined) missing++;
    else if (node !== undefined && (wanted === undefined || !index.graph.vectorOf(node).every((one, d) => one === wanted[d]))) misplaced++;
  }
  return { name: index.definition.name, entries: index.entries, expected, missing, repeated: 0, misplaced, absent: 0, notUnique: 0 };
} // prettier-ignore

export const vector: IndexKind<VectorIndex> = {
  words: { title: 'Vector', doc: 'Vectors: the nearest to another, exactly, or about and much faster.' },
  unfit: ({ keys, unique, where }) => {
    if (keys.length > 1) return 'A vector index is on one path.';
    if (keys[0]!.expression.kind !== 'path' || keys[0]!.several) return 'A vector index is on a path to an array of numbers.';
    if (keys[0]!.direction === 'desc') return 'Vectors have no direction of an order: leave desc out.';
    if (unique) return 'Vectors cannot be unique.';
    return where === undefined ? undefined : 'A vector index is of all documents: leave the condition out.';
  },
  build: (definition, store) => VectorIndex.build(definition, store),
  begin: (definition, store) => VectorIndex.begin(definition, store),
  check,
  recall: measureRecall,
  summary: ({ entries, graph: { dimensions }, skipped, definition }) => ({ entries, dimensions, skipped, ...definition.vector }),
  access,
};
