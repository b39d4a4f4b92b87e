import { printExpression } from '../../language/surfaces/notation/print.ts';
import type { Expression } from '../../language/tree.ts';
import type { DocumentStore } from '../../storage/store.ts';
import { cosineSimilarity, dotProduct, euclideanDistance } from '../../words/vectors.ts';
import type { Value } from '../../values/json.ts';
import type { Metric } from '../definition.ts';
import type { Asked, IndexCheck, IndexKind, PositionsAccess, Scored, ScoreOptions } from '../kind.ts';
import { firstOf } from '../scores.ts';
import { VectorIndex } from './vectorIndex.ts';

interface AskedVector {
  readonly metric: Metric;
  readonly path: string;
  readonly vector: Expression;
}

const metrics: Readonly<Record<string, Metric>> = { cosine_similarity: 'cosine', dot_product: 'dot', euclidean_distance: 'euclidean' };

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

const always = (): boolean => true;
/** 32 bits hold 24 of a number: what that may make of a score, with room to spare. */
const rounding = 1e-6;
/** About how many vectors a walk compares for each candidate of its effort. */
const comparedEach = 24;

/** The score as the functions give it, from the document's own numbers. */
function exactScore(metric: Metric, own: Value, vector: Value): number | undefined {
  if (metric === 'cosine') return cosineSimilarity(own, vector);
  if (metric === 'dot') return dotProduct(own, vector);
  const apart = euclideanDistance(own, vector);
  return apart === undefined ? undefined : -apart;
}

function scoredVectors(index: VectorIndex, { metric, vector }: AskedVector, { valueOf, read, effort, size }: ScoreOptions): Scored {
  const asked = valueOf(vector);
  const query = index.packed(asked);
  const scoreOf = (position: number): number | undefined => exactScore(metric, read(position), asked);
  const before = index.graph.compared;
  return {
    get entries() {
      return index.graph.compared - before;
    },
    at: scoreOf,
    *bestFirst(accepts = always) {
      // Another length than the index has, or numbers that it cannot hold: every document is looked at.
      if (query === undefined)
        yield* inOrder(
          Array.from({ length: size }, (_, position) => position),
          scoreOf,
        );
      else if (effort === undefined) yield* exactly(index, query, metric, scoreOf);
      else yield* inOrder([...index.nearest(query, effort, accepts), ...[...index.odd].filter(accepts)], scoreOf);
    },
  };
}

function inOrder(positions: readonly number[], scoreOf: (position: number) => number | undefined): (readonly [number, number])[] {
  const scored = positions.flatMap((position) => {
    const score = scoreOf(position);
    return score === undefined ? [] : [[position, score] as const];
  });
  return scored.sort((a, b) => b[1] - a[1] || a[0] - b[0]);
}

/** All of them, best first: packed numbers tell which may be among the best, and their documents which are. */
function* exactly(index: VectorIndex, query: Float32Array, metric: Metric, scoreOf: (position: number) => number | undefined): Generator<readonly [number, number]> {
  const positions: number[] = [];
  const distances = new Float64Array(index.graph.count);
  index.everyDistance(query, (position, distance) => {
    distances[positions.length] = distance;
    positions.push(position);
  });
  const numbers = Array.from(positions, (_, i) => i);
  const length = Math.sqrt(query.reduce((sum, one) => sum + one * one, 0));
  const slack = metric === 'cosine' ? 8 * rounding : metric === 'dot' ? rounding * length * index.greatest : rounding * (length + index.greatest);
  const given = new Set<number>();
  for (let most = 128; ; most *= 8) {
    const first = firstOf(numbers, Math.min(most, numbers.length), (a, b) => distances[a]! - distances[b]! || a - b);
    const last = distances[first[first.length - 1]!];
    const bound = first.length === numbers.length || last === undefined ? -Infinity : (metric === 'euclidean' ? -Math.sqrt(last) : -last) + slack;
    for (const one of inOrder([...first.map((i) => positions[i]!), ...index.odd], scoreOf)) {
      if (one[1] <= bound) break;
      if (given.has(one[0])) continue;
      given.add(one[0]);
      yield one;
    }
    if (first.length === numbers.length) return;
  }
} // prettier-ignore

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
    score: (index, expression, options) =>
      scoredVectors(
        index,
        askedVector(expression, () => true)!,
        options,
      ),
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
  summary: ({ entries, graph: { dimensions }, skipped, definition }) => ({ entries, dimensions, skipped, ...definition.vector }),
  access,
};
