import type { GroupAllStage, GroupStage, SelectItem } from '../../language/stages/stage.ts';
import { printExpression } from '../../language/surfaces/notation/print.ts';
import { isSingle, walk, type Expression, type PathExpression } from '../../language/tree.ts';
import { partsOf, withWheresJoined } from '../joinedWheres.ts';
import { isStage, type PlannedStage } from '../logical.ts';
import { pathTo, textOf } from './canonical.ts';
import { goesByLostPlaces } from './lostPlaces.ts';
import { rolledUp } from './rollUp.ts';

/** What of a question a view's rows answer: the stages that go on from them. */
export interface ViewMatch {
  /** The stage that names the source. */
  readonly from: PlannedStage;
  /** The stage of the question that gives just the rows of the view; undefined where there is none. */
  readonly gives: PlannedStage | undefined;
  readonly rest: readonly PlannedStage[];
}

/**
 * Whether a question begins with what a view has kept. Conditions are compared as sets, whatever their order; further ones may stand
 * where they concern what the view still has. A group may ask for fewer measures, or for fewer keys where its aggregates can be
 * put together from those that are kept.
 * @param keepsSums whether what sums were before they were rounded is kept with the view's rows
 * @returns why not, where it does not
 */
export function matchView(question: readonly PlannedStage[], view: readonly PlannedStage[], keepsSums: boolean): ViewMatch | string {
  const asked = withWheresJoined(question, 'last');
  const kept = withWheresJoined(view, 'last');
  const further: Expression[] = [];
  let at = 0;
  for (let i = 0; i < kept.length; i++) {
    const own = kept[i]!;
    const before = asked[at];
    if (!isStage(own, 'where') && isStage(before, 'where')) {
      further.push(...partsOf(before.stage.condition));
      at++;
    }
    const there = asked[at];
    if (there === undefined) return 'it is made of more than what is asked';
    if (isStage(own, 'where')) {
      if (!isStage(there, 'where')) return `it has only rows where ${printExpression(own.stage.condition)}`;
      const has = partsOf(own.stage.condition).map((one) => printExpression(one));
      const wanted = partsOf(there.stage.condition);
      const texts = wanted.map((one) => printExpression(one));
      const missing = has.find((one) => !texts.includes(one));
      if (missing !== undefined) return `it has only rows where ${missing}`;
      further.push(...wanted.filter((_, w) => !has.includes(texts[w]!)));
    } else if (isStage(own, 'group') && isGroup(there) && textOf(own) !== textOf(there)) {
      if (i < kept.length - 1) return 'it is grouped in another way';
      return grouped({ asked, at, group: there, kept: own.stage, keepsSums, further });
    } else if (textOf(own) !== textOf(there)) {
      return `it goes on with ${textOf(own)}, and the question with ${textOf(there)}`;
    } else if (isStage(own, 'group') && further.length > 0) {
      const moved = movedBehind(further, own.stage.keys);
      if (moved === undefined) return 'a condition concerns what it has no longer';
      // What follows in the view keeps rows or puts them in order, so that a condition on keys may come after it.
      if (kept.slice(i + 1).some(({ stage }) => stage.kind !== 'where' && stage.kind !== 'order')) return 'a condition comes before what cannot be passed'; // prettier-ignore
      further.splice(0, further.length, ...moved);
    } else if (further.length > 0 && own.stage.kind !== 'order') {
      return 'a condition concerns what it has no longer';
    }
    at++;
  }
  const last = asked[at - 1]!;
  if (goesByLostPlaces(kept, asked.slice(at))) return 'ties go by the places of documents, which its rows have no longer';
  const where = asWhere(further, last);
  return { from: asked[0]!, gives: where.length === 0 ? last : undefined, rest: [...where, ...asked.slice(at)] };
}

type AnyGroup = PlannedStage<GroupStage> | PlannedStage<GroupAllStage>;

function isGroup(planned: PlannedStage): planned is AnyGroup {
  return isStage(planned, 'group') || isStage(planned, 'groupAll');
}

interface GroupAsked {
  readonly asked: readonly PlannedStage[];
  /** Where the group is among them. */
  readonly at: number;
  readonly group: AnyGroup;
  readonly kept: GroupStage;
  readonly keepsSums: boolean;
  readonly further: readonly Expression[];
}

/** A group over the one that is kept: fewer measures of the same keys, or coarser ones. */
function grouped({ asked, at, group, kept, keepsSums, further }: GroupAsked): ViewMatch | string {
  const conditions = movedBehind(further, kept.keys);
  if (conditions === undefined) return 'a condition concerns what it has no longer';
  const made = rolledUp(kept, group.stage, keepsSums);
  if (typeof made === 'string') return made;
  const where = asWhere(conditions, group).map((one) => ({ ...one, uncounted: true as const }));
  return { from: asked[0]!, gives: undefined, rest: [...where, { id: group.id, stage: made }, ...asked.slice(at + 1)] };
}

/** Conditions of group keys as conditions of the columns that they became; undefined where one asks for something else. */
function movedBehind(conditions: readonly Expression[], keys: readonly SelectItem[]): Expression[] | undefined {
  const single = keys.filter(({ expression }) => expression.kind === 'path' && isSingle(expression));
  const targets = new Map(single.map((key) => [printExpression(key.expression), key.target]));
  const moved: Expression[] = [];
  for (const condition of conditions) {
    let isOfKeys = true;
    walk(condition, (node) => {
      if (node.kind === 'path' && !targets.has(printExpression(node))) isOfKeys = false;
    });
    if (!isOfKeys) return undefined;
    moved.push(replaced(condition, (path) => pathTo(targets.get(printExpression(path))!, path)));
  }
  return moved;
}

/** An expression with every path in it made another. */
function replaced(expression: Expression, change: (path: PathExpression) => Expression): Expression {
  const visit = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(visit);
    if (typeof value !== 'object' || value === null) return value;
    if ((value as { kind?: string }).kind === 'path') return change(value as PathExpression);
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, visit(inner)]));
  };
  return visit(expression) as Expression;
}

function asWhere(conditions: readonly Expression[], at: PlannedStage): PlannedStage[] {
  const [first, ...more] = conditions;
  if (first === undefined) return [];
  const condition: Expression = more.length === 0 ? first : { kind: 'and', operands: [...conditions], id: first.id };
  return [{ id: at.id, stage: { kind: 'where', condition } }];
}
