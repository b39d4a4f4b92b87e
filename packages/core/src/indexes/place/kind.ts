import { positionOf } from '../../expressions/meanings/place.ts';
import { printExpression } from '../../language/surfaces/notation/print.ts';
import type { Call, ComparisonOperator, Expression } from '../../language/tree.ts';
import type { DocumentStore } from '../../storage/store.ts';
import type { Asked, FoundPath, IndexCheck, IndexKind, PositionsAccess, Scored } from '../kind.ts';
import { PlaceIndex, type Point } from './placeIndex.ts';

/** A circle: less than so many metres from a place. */
interface Circle {
  readonly from: Point;
  readonly metres: number;
  readonly isInclusive: boolean;
}

/** The path and the place that a distance is between. */
interface Between {
  readonly path: string;
  readonly place: Expression;
}

function between(expression: Expression): Between | undefined {
  if (expression.kind !== 'call' || expression.name !== 'distance') return undefined;
  const [a, b] = (expression as Call).arguments;
  const [path, place] = a?.kind === 'path' && a.segments.length > 0 ? [a, b] : [b, a];
  if (path?.kind !== 'path' || path.segments.length === 0 || path.root.kind === 'partner' || place === undefined) return undefined;
  return { path: printExpression({ ...path, root: { kind: 'current' } }), place };
}

const mirrored: Partial<Record<ComparisonOperator, '<' | '<='>> = { '>': '<', '>=': '<=' };

/** What a condition asks of a distance: that it is less than a constant. */
function circleOf(condition: Expression): (Between & { readonly metres: Expression; readonly isInclusive: boolean }) | undefined {
  if (condition.kind !== 'comparison') return undefined;
  const { left, right, operator } = condition;
  const [side, metres, sign] = operator === '<' || operator === '<=' ? [left, right, operator] : [right, left, mirrored[operator]];
  const found = between(side);
  return found === undefined || sign === undefined ? undefined : { ...found, metres, isInclusive: sign === '<=' };
}

function match(index: PlaceIndex, { conditions, valueOf, isConstant }: Asked): readonly FoundPath[] | string {
  const key = index.definition.keys[0]!.text;
  const ways = conditions.flatMap((condition, at): FoundPath[] => {
    const asked = circleOf(condition);
    if (asked?.path !== key || !isConstant(asked.place) || !isConstant(asked.metres)) return [];
    const [from, metres] = [positionOf(valueOf(asked.place)), valueOf(asked.metres)];
    const circle: Circle | undefined = from === undefined || typeof metres !== 'number' ? undefined : { from, metres, isInclusive: asked.isInclusive };
    const words = circle === undefined ? `no place is asked for, so none is near` : `within ${circle.metres.toLocaleString('en')} m of [${circle.from.join(', ')}]`;
    return [{ lookup: circle, words, entries: find(index, circle).length, used: [at], served: [at] }];
  });
  return ways.length > 0 ? ways : `nothing is asked of how far ${key} is from a place`;
} // prettier-ignore

const find = (index: PlaceIndex, circle: unknown): readonly number[] => {
  if (circle === undefined) return [];
  const { from, metres, isInclusive } = circle as Circle;
  return index.within(from, metres, isInclusive);
};

/** `-distance(@.position, P)`: the nearer, the higher. */
const scored = (expression: Expression): Between | undefined => (expression.kind === 'negation' ? between(expression.operand) : undefined);

/** About how many entries are looked at before enough are found. */
const lookedAt = 256;

const access: PositionsAccess<PlaceIndex> = {
  by: 'positions',
  match,
  find,
  candidates: ({ conditions, isConstant }) =>
    conditions.flatMap((condition) => {
      const asked = circleOf(condition);
      return asked !== undefined && isConstant(asked.place) && isConstant(asked.metres) ? [{ keys: [asked.path] }] : [];
    }),
  scoring: {
    serves: (definition, expression, isConstant) => {
      const asked = scored(expression);
      return asked !== undefined && asked.path === definition.keys[0]!.text && isConstant(asked.place);
    },
    candidate: (expression, isConstant) => {
      const asked = scored(expression);
      return asked !== undefined && isConstant(asked.place) ? { keys: [asked.path] } : undefined;
    },
    about: (index) => ({ documents: index.entries, entries: Math.min(index.entries, lookedAt) }),
    scoresAll: (index, expression, { valueOf, documents }) =>
      index.entries === documents && positionOf(valueOf(scored(expression)!.place)) !== undefined,
    score: (index, expression, { valueOf }): Scored => {
      const from = positionOf(valueOf(scored(expression)!.place));
      let entries = 0;
      return {
        get entries() {
          return entries;
        },
        at: (position) => {
          const metres = from && index.distanceTo(position, from);
          return metres === undefined ? undefined : -metres;
        },
        *bestFirst() {
          if (from === undefined) return;
          for (const [position, metres] of index.nearestFirst(from, (count) => void (entries += count))) yield [position, -metres];
        },
      };
    },
  },
};

/** Held against one that is built anew of the documents. */
function* check(index: PlaceIndex, store: DocumentStore): Generator<number, IndexCheck> {
  const building = PlaceIndex.build(index.definition, store);
  let step = building.next();
  for (; !step.done; step = building.next()) yield step.value.share * 0.9;
  const fresh = step.value;
  let missing = 0;
  let misplaced = 0;
  const origin: Point = [0, 0];
  for (let position = 0; position < store.documents.length; position++) {
    const [own, wanted] = [index.distanceTo(position, origin), fresh.distanceTo(position, origin)];
    if (wanted !== undefined && own === undefined) missing++;
    else if (own !== wanted) misplaced++;
  }
  const { name } = index.definition;
  return { name, entries: index.entries, expected: fresh.entries, missing, repeated: 0, misplaced, absent: 0, notUnique: 0 };
}

export const place: IndexKind<PlaceIndex> = {
  words: { title: 'Place', doc: 'Places on the globe: what lies within a circle, and the nearest first.' },
  unfit: ({ keys, unique, where }) => {
    if (keys.length > 1) return 'A place index is on one path.';
    if (keys[0]!.expression.kind !== 'path' || keys[0]!.several) return 'A place index is on a path to one place: a GeoJSON Point, or [longitude, latitude].';
    if (keys[0]!.direction === 'desc') return 'Places have no direction: leave desc out.';
    if (unique) return 'Places cannot be unique.';
    return where === undefined ? undefined : 'A place index is of all documents: leave the condition out.';
  },
  build: (definition, store) => PlaceIndex.build(definition, store),
  check,
  summary: ({ entries }) => ({ entries }),
  access,
}; // prettier-ignore
