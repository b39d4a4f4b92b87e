import { pathText, printExpression } from './grammar/print.ts';
import { partnerName } from './stages/join.ts';
import { printMeasure } from './stages/group.ts';
import { isJoin, isRank, type Stage } from './stages/stage.ts';
import { walk, type Expression, type PathExpression } from './tree.ts';
import type { PlacedStage } from './pipeline.ts';

/** A line that had a part in a field: what it made of what. */
export interface LifeStep {
  readonly line: number;
  /** The field as it is called after the line. */
  readonly field: string;
  readonly made: string;
  /** What it was made from, as it was called before the line. */
  readonly from: readonly string[];
}

export interface FieldLife {
  /** The last line first. */
  readonly steps: readonly LifeStep[];
  /** Fields of collections where it begins, each with the collection's name. */
  readonly sources: readonly string[];
}

/** Follows a field of the output back through the lines to the fields that it comes from. */
export function fieldLife(stages: readonly PlacedStage[], names: readonly string[]): FieldLife {
  const on = stages.filter(({ off, stage }) => !off && stage !== undefined);
  const steps: LifeStep[] = [];
  const sources = new Set<string>();
  let wanted: (readonly string[])[] = [names];
  for (const { stage, line } of [...on].reverse()) {
    if (stage === undefined) continue;
    const next: (readonly string[])[] = [];
    for (const field of wanted) {
      const made = madeBy(stage, field);
      if (made === undefined) {
        next.push(field);
        continue;
      }
      steps.push({ line, field: pathText(field), made: made.text, from: [...made.from.map((one) => pathText(one)), ...made.sources] });
      for (const source of made.sources) sources.add(source);
      next.push(...made.from);
    }
    wanted = unique(next);
    if (stage.kind === 'from') for (const field of wanted) sources.add(`${stage.source} ${pathText(field)}`);
  }
  return { steps, sources: [...sources] };
}

export interface Made {
  readonly text: string;
  readonly from: readonly (readonly string[])[];
  readonly sources: readonly string[];
}

/** What a stage made of a field; undefined where it passes it on as it was. */
export function madeBy(stage: Stage, field: readonly string[]): Made | undefined {
  if (stage.kind === 'compute') {
    const own = stage.assignments.findLast(({ target }) => covers(target, field) || covers(field, target));
    return own && { text: `computed as ${printExpression(own.expression)}`, from: readIn(own.expression), sources: [] };
  }
  if (stage.kind === 'select' || stage.kind === 'group') {
    const items = stage.kind === 'select' ? stage.items : stage.keys;
    const item = items.find(({ target }) => covers(target, field));
    if (item !== undefined) {
      const rest = field.slice(item.target.length);
      const from = readIn(item.expression).map((one) => (item.expression.kind === 'path' ? [...one, ...rest] : one));
      const isPlain = item.expression.kind === 'path' && from.length === 1 && from[0].join('\n') === field.join('\n');
      if (isPlain && stage.kind === 'select') return undefined;
      return {
        text: stage.kind === 'group' ? `a key: ${printExpression(item.expression)}` : `put there from ${printExpression(item.expression)}`,
        from,
        sources: [],
      };
    }
  }
  if (stage.kind === 'group' || stage.kind === 'groupAll') {
    const measure = stage.measures.find(({ target }) => covers(target, field));
    if (measure === undefined) return undefined;
    const from = [measure.argument, measure.where].flatMap((expression) => (expression === undefined ? [] : readIn(expression)));
    return { text: `measured: ${printMeasure(measure)}`, from, sources: [] };
  }
  if (stage.kind === 'unnest') {
    if (stage.position && covers(stage.position.names, field))
      return { text: 'the position of an element', from: readIn(stage.path), sources: [] };
    return covers(stage.target.names, field)
      ? { text: `an element of ${printExpression(stage.path)}`, from: readIn(stage.path), sources: [] }
      : undefined;
  }
  if (isJoin(stage)) {
    if (!covers(stage.target.names, field)) return undefined;
    const inner = field.slice(stage.target.names.length);
    return {
      text: `brought in as ${partnerName(stage)}, on ${printExpression(stage.condition)}`,
      from: [],
      sources: [`${stage.source} ${pathText(inner)}`],
    };
  }
  if (isRank(stage)) {
    if (!covers(stage.target.names, field)) return undefined;
    const from = [...stage.partition, ...stage.keys.map(({ expression }) => expression)].flatMap(readIn);
    return { text: 'its rank', from, sources: [] };
  }
  return undefined;
}

function covers(target: readonly string[], field: readonly string[]): boolean {
  return target.length <= field.length && target.every((name, i) => name === field[i]);
}

/** The fields of the row that an expression reads. */
function readIn(expression: Expression): (readonly string[])[] {
  const found: (readonly string[])[] = [];
  walk(expression, (node) => {
    if (node.kind === 'path' && node.root.kind !== 'partner') found.push(leading(node));
  });
  return unique(found.filter((names) => names.length > 0));
}

function leading({ segments }: PathExpression): string[] {
  const names: string[] = [];
  for (const { descendant, selectors } of segments) {
    const [selector] = selectors;
    if (descendant || selectors.length !== 1 || selector.kind !== 'name') break;
    names.push(selector.name);
  }
  return names;
}

function unique(fields: readonly (readonly string[])[]): (readonly string[])[] {
  return [...new Map(fields.map((field) => [JSON.stringify(field), field])).values()];
}
