import { definitionOf } from '../../language/stages/registry.ts';
import type { Measure } from '../../language/stages/stage.ts';
import { printExpression } from '../../language/surfaces/notation/print.ts';
import type { PathExpression, Segment } from '../../language/tree.ts';
import type { PlannedStage } from '../logical.ts';

/** A path to a column. */
export function pathTo(target: readonly string[], like: Pick<PathExpression, 'id'>): PathExpression {
  const { id } = like;
  const segments = target.map((name): Segment => ({ id, descendant: false, selectors: [{ id, kind: 'name', name }] }));
  return { kind: 'path', id, root: { kind: 'current' }, segments };
}

/** A stage in its canonical form, that of a view which it joins included. */
export function textOf({ stage, partner }: PlannedStage): string {
  if (stage.kind === 'mark') return '';
  const own = definitionOf(stage.kind).print(stage as never);
  return partner === undefined ? own : `${own} (${partner.map(textOf).join('\n')})`;
}

/** A measure in its canonical form, where it is put included. */
export const measureText = (measure: Measure): string => JSON.stringify([measure.target, sumText(measure)]);

/** The same without where it is put. */
export function sumText({ aggregate, argument, percentage, where }: Omit<Measure, 'target' | 'id'>): string {
  return [aggregate, ...[argument, percentage, where].map((one) => (one === undefined ? '' : printExpression(one)))].join(' | ');
}
