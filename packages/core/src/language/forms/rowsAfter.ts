import { descend, type FieldTree } from '../../shape/fieldTree.ts';
import { readField } from '../../values/fields.ts';
import type { Value } from '../../values/json.ts';
import { pathText, printExpression, printLiteral } from '../surfaces/notation/print.ts';
import { parseConditionText } from '../surfaces/notation/texts.ts';
import { parsePipeline } from '../surfaces/notation/parsePipeline.ts';
import type { PlacedStage } from '../pipeline.ts';
import { printOrderKey } from '../stages/order.ts';
import type { OrderKey } from '../stages/stage.ts';
import { fieldNames } from '../tree.ts';

export type RowsAfter = { readonly text: string; readonly addedTie: boolean } | { readonly reason: string };

interface Bound {
  readonly path: string;
  readonly key: Pick<OrderKey, 'direction' | 'nulls'>;
  readonly value: null | boolean | number | string | undefined;
  /** Whether the field may be missing in documents, or null, as far as is known. */
  readonly mayMiss: boolean;
  readonly mayBeNull: boolean;
}

/**
 * The pipeline whose rows come after a row that was seen: its order's keys are compared with the row's values, so that an
 * index on them starts right after the row, and nothing is counted off. Where documents may lack a key, the condition
 * takes them in. The identity breaks ties, and is added to the keys where it is not among them.
 * @param row a row of the pipeline's result; it must still have the fields that it is ordered by
 * @param identity the path of the collection's identity, as field names
 * @param shapeBefore what rows look like before a stage's line
 */
export function rowsAfter(
  pipeline: string,
  row: unknown,
  identity: readonly string[],
  shapeBefore: (line: number) => FieldTree | undefined,
): RowsAfter {
  const { stages, text } = parsePipeline(pipeline);
  const on = stages.filter(({ off }) => !off);
  const at = on.findLastIndex(({ stage }) => stage?.kind === 'order');
  const order = on[at];
  if (order?.stage?.kind !== 'order') return { reason: 'This needs an order: add order by, and rows have a place to go on from.' };
  if (on.slice(at + 1).some(({ stage }) => stage?.kind === 'where' || stage?.kind === 'sample'))
    return { reason: 'A line after order by still drops rows; move it before, and this can go on from a row.' };
  const own = pathText(identity);
  const keys: readonly Pick<OrderKey, 'expression' | 'direction' | 'nulls'>[] = order.stage.keys;
  const isTied = keys.some(({ expression }) => printExpression(expression) === own);
  const tree = shapeBefore(order.line);
  const bounds: Bound[] = [];
  for (const { expression, direction, nulls } of keys) {
    const names = expression.kind === 'path' ? fieldNames(expression) : undefined;
    const path = printExpression(expression);
    if (names === undefined) return { reason: `${path} is computed: put it into a field with compute first, and order by that.` };
    bounds.push({ ...boundAt(row, names, tree), path, key: { direction, nulls } });
  }
  if (!isTied)
    bounds.push({
      ...boundAt(row, identity, undefined),
      mayMiss: false,
      mayBeNull: false,
      path: own,
      key: { direction: 'asc', nulls: 'last' },
    });
  const isNarrowed = on.slice(at + 1).some(({ stage }) => stage?.kind === 'select' || stage?.kind === 'omit');
  const absent = bounds.find(({ value, mayMiss }) => value === undefined && (!mayMiss || isNarrowed));
  if (absent !== undefined)
    return { reason: `The row does not hold ${absent.path} any more, by which it is ordered. Keep that field in select.` };
  const condition = after(bounds);
  if (condition === undefined) return { reason: 'No row can come after this one.' };
  const newOrder = `order by ${[...order.stage.keys.map(printOrderKey), ...(isTied ? [] : [own])].join(', ')}`;
  // The condition of an earlier page is implied by this one: pages that follow each other do not pile up.
  const before = on[at - 1];
  const replaces = before?.stage?.kind === 'where' && isBound(printExpression(before.stage.condition), bounds);
  const start = replaces ? before.from : order.from;
  const kept = replaces ? comments(before) : '';
  const edits = [
    { from: start, to: order.to, insert: `where ${condition}${kept}\n${newOrder}${comments(order)}` },
    ...on
      .slice(at + 1)
      .flatMap((placed) => (placed.stage?.kind === 'offset' ? [{ from: placed.from, to: placed.to + 1, insert: '' }] : [])),
  ];
  return {
    text: edits.sort((a, b) => b.from - a.from).reduce((done, { from, to, insert }) => done.slice(0, from) + insert + done.slice(to), text),
    addedTie: !isTied,
  };
}

const literal = /"(?:[^"\\]|\\.)*"|-?\d[\d.eE+-]*|true|false/y;

/** Whether a condition is that of an earlier row: the same, but for the values. */
function isBound(condition: string, bounds: readonly Bound[]): boolean {
  const earlier = bounds.map((bound): Bound | undefined => {
    const opening = `${bound.path} ${bound.key.direction === 'asc' ? '>' : '<'} `;
    const at = condition.indexOf(opening);
    literal.lastIndex = at + opening.length;
    const found = at < 0 ? undefined : literal.exec(condition)?.[0];
    return found === undefined ? undefined : { ...bound, value: JSON.parse(found) as string | number | boolean };
  });
  if (!earlier.every((bound) => bound !== undefined)) return false;
  const read = parseConditionText(after(earlier) ?? '');
  return 'expression' in read && printExpression(read.expression) === condition;
}

function comments(placed: PlacedStage): string {
  return placed.comments.map((comment) => `  ${comment.text}`).join('');
}

function boundAt(row: unknown, names: readonly string[], tree: FieldTree | undefined): Pick<Bound, 'value' | 'mayMiss' | 'mayBeNull'> {
  const value = names.reduce<Value>((at, name) => readField(at, name), row as Value);
  const info = tree && descend(tree, names)?.info;
  const nulls = info?.types.null ?? 0;
  const isPlain = value === null || typeof value !== 'object';
  return {
    value: isPlain ? value : undefined,
    mayMiss: info === undefined || info.presence < 1,
    mayBeNull: info === undefined || nulls > 0,
  };
}

/** A row comes after the bounds: by the first key, or with it equal by the next. Disjunction, or one condition. */
function after([first, ...rest]: readonly Bound[]): string | undefined {
  if (first === undefined) return undefined;
  const { path, value, mayMiss, mayBeNull, key } = first;
  const following = after(rest);
  const later = following?.includes(' || ') ? `(${following})` : following;
  if (value === undefined || value === null) {
    const lacks = `(!${path} || ${path} == null)`;
    if (key.nulls === 'first')
      return later === undefined ? `${path} != null && ${path}` : `${lacks} && ${later} || ${path} != null && ${path}`;
    return later === undefined ? undefined : `${lacks} && ${later}`;
  }
  const sign = key.direction === 'asc' ? '>' : '<';
  const literal = printLiteral(value);
  const lacks = key.nulls === 'first' ? '' : `${mayMiss ? ` || !${path}` : ''}${mayBeNull ? ` || ${path} == null` : ''}`;
  // Ranges of one index that lie one after another: the planner walks them in turn.
  return `${path} ${sign} ${literal}${later === undefined ? '' : ` || ${path} == ${literal} && ${later}`}${lacks}`;
}
