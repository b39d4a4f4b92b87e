import type { NodeId } from '../../language/places.ts';
import { compileValue } from '../../expressions/compile.ts';
import { makeContext } from '../../expressions/context.ts';
import { printExpression } from '../../language/surfaces/notation/print.ts';
import type { Measure, SelectItem, UnnestStage } from '../../language/stages/stage.ts';
import { keyOfAll } from '../../values/keys.ts';
import type { JsonObject } from '../../values/json.ts';
import { isSingle, type Expression } from '../../language/tree.ts';
import { isStage, type PlannedStage } from '../logical.ts';
import type { PhysicalStep, Unnested } from '../physical.ts';
import { readsOf, touches } from '../rewrites/reads.ts';
import { isOfRow, leadingNames, withPaths, type PathChange } from '../../language/substitute.ts';
import type { PlannedSource } from '../source.ts';
import { measuredOn } from '../statistics.ts';
import type { LayContext } from './layer.ts';

/** What the element of an array that is taken apart on the way is called; no name that can be written. */
const elementName = '\u0000element';

interface GroupParts {
  readonly keys: readonly SelectItem[] | undefined;
  readonly measures: readonly Measure[];
}

/** Lays a group over the rows that come. */
export function layGroup(planned: PlannedStage, input: PhysicalStep, context: LayContext): PhysicalStep {
  const { keys, measures } = partsOf(planned);
  return {
    kind: 'group',
    stages: [planned.id],
    estimatedRows: groupsIn(keys, input, context),
    keys,
    measures,
    unnested: undefined,
    input,
  };
}

function partsOf({ stage }: PlannedStage): GroupParts {
  if (stage.kind === 'group') return { keys: stage.keys, measures: stage.measures };
  return { keys: undefined, measures: stage.kind === 'groupAll' ? stage.measures : [] };
}

/** Makes expressions over the row as it would be into such over the row as it is, an element, and what is computed of both. */
class Inliner {
  private readonly computed: { readonly name: string; readonly expression: Expression }[] = [];
  private readonly element: string;
  /** Whether all of them mean the same. */
  isSafe = true;

  constructor(element: string) {
    this.element = element;
  }

  compute(name: string, expression: Expression): void {
    this.computed.push({ name, expression: this.read(expression) });
  }

  read(expression: Expression, asNodes = false): Expression {
    if (readsOf(expression) === 'all') this.isSafe = false;
    const change: PathChange = (path, place) => {
      if (!isOfRow(path, place.inFilter)) return undefined;
      const names = leadingNames(path);
      const value = this.computed.findLast(({ name }) => name === names[0])?.expression;
      if (value !== undefined) {
        // A computed value can stand in the place of the whole path alone, outside of filters, where `@` is another;
        // and where nodes are asked for, it must be one node.
        const isOneNode = value.kind === 'path' && isSingle(value);
        if (path.segments.length !== 1 || place.inFilter || (place.asNodes && !isOneNode)) this.isSafe = false;
        return value;
      }
      if (names[0] !== this.element) return undefined;
      return { ...path, root: { kind: 'partner', name: elementName }, segments: path.segments.slice(1) };
    };
    return withPaths(expression, change, { inFilter: false, asNodes });
  }
}

/**
 * An unnest that a group follows, perhaps after conditions and computed fields, laid as one step: the elements never
 * become rows. Undefined where something looks at the row as a whole.
 * @returns the step, and how many stages it does
 */
export function layUnnestedGroup(
  stages: readonly PlannedStage[],
  input: PhysicalStep,
  context: LayContext,
): { readonly step: PhysicalStep; readonly count: number } | undefined {
  const [first] = stages;
  if (!context.mayFuse || !isStage(first, 'unnest') || first.stage.position !== undefined || first.stage.target.names.length !== 1)
    return undefined;
  const end = stages.findIndex(({ stage }, i) => i > 0 && stage.kind !== 'where' && stage.kind !== 'compute' && stage.kind !== 'mark');
  const last = stages[end]!;
  if (end < 0 || (last.stage.kind !== 'group' && last.stage.kind !== 'groupAll')) return undefined;
  const element = first.stage.target.names[0]!;
  const inliner = new Inliner(element);
  const conditions: Expression[] = [];
  const done: NodeId[] = [first.id];
  for (const { stage, id } of stages.slice(1, end)) {
    if (stage.kind === 'where') {
      conditions.push(inliner.read(stage.condition, true));
      done.push(id);
    } else if (stage.kind === 'compute') {
      for (const { target, expression } of stage.assignments) {
        if (target.length !== 1 || target[0] === element || touches([[element]], [target])) inliner.isSafe = false;
        inliner.compute(target[0]!, expression);
      }
      done.push(id);
    }
  }
  const { keys, measures } = partsOf(last);
  const inlinedKeys = keys?.map((key) => ({ ...key, expression: inliner.read(key.expression) }));
  const inlinedMeasures = measures.map((measure) => ({
    ...measure,
    argument: measure.argument && inliner.read(measure.argument),
    where: measure.where && inliner.read(measure.where, true),
  }));
  if (!inliner.isSafe) return undefined;
  const [condition] = conditions;
  const unnested: Unnested = {
    path: first.stage.path,
    element: elementName,
    keepEmpty: first.stage.keepEmpty,
    condition: condition === undefined || conditions.length < 2 ? condition : { kind: 'and', operands: conditions, id: condition.id },
    stages: done,
  };
  const step: PhysicalStep = {
    kind: 'group',
    stages: [...done, last.id],
    estimatedRows: keys === undefined ? 1 : Math.sqrt(unnestedRows(first.stage, input, context)),
    keys: inlinedKeys,
    measures: inlinedMeasures,
    unnested,
    input,
  };
  context.rewrites.push({
    rule: 'unnest joined to group',
    detail: () => 'elements are taken into their groups without becoming rows',
    stages: [...done, last.id],
  });
  return { step, count: end + 1 };
}

/** About how many rows an unnest gives. */
export function unnestedRows(stage: UnnestStage, input: PhysicalStep, { source }: LayContext): number {
  return input.estimatedRows * elementsPerRow(stage, source);
}

/** By the lengths of the arrays in the sample of the source. */
export function elementsPerRow(stage: UnnestStage, source: PlannedSource): number {
  return measuredOn(source.sample(), `unnest ${printExpression(stage.path)}`, (documents) => {
    const read = compileValue(stage.path);
    const context = makeContext({});
    let met = 0;
    let elements = 0;
    for (const document of documents.slice(0, 300)) {
      const value = read(document, context);
      if (value === undefined) continue;
      met++;
      elements += Array.isArray(value) ? value.length : 1;
    }
    // An array that an earlier line made is not in the sample.
    return met === 0 ? 3 : elements / met;
  });
}

/** About how many groups there are: as many different keys as the sample shows, more where it shows mostly different ones. */
function groupsIn(keys: readonly SelectItem[] | undefined, input: PhysicalStep, { source }: LayContext): number {
  if (keys === undefined) return 1;
  const sample = source.sample();
  const looked = Math.min(groupsLookedAt, sample.documents.length);
  if (looked === 0) return 1;
  const different = measuredOn(sample, `group ${keys.map(({ expression }) => printExpression(expression)).join(', ')}`, (documents) =>
    differentKeys(keys, documents.slice(0, looked)),
  );
  // What an earlier line made is not in the sample, and says nothing of how many groups there are.
  if (different === 0) return Math.max(1, Math.sqrt(input.estimatedRows));
  const share = different / looked;
  return Math.max(1, share > 0.6 ? input.estimatedRows * share : Math.min(input.estimatedRows, different));
}

const groupsLookedAt = 600;

/** How many different keys documents have; 0 where some key is in none of them. */
function differentKeys(keys: readonly SelectItem[], documents: readonly JsonObject[]): number {
  const read = keys.map(({ expression }) => compileValue(expression));
  const context = makeContext({});
  if (read.some((evaluate) => documents.every((document) => evaluate(document, context) === undefined))) return 0;
  return new Set(documents.map((document) => keyOfAll(read.map((evaluate) => evaluate(document, context))))).size;
}
