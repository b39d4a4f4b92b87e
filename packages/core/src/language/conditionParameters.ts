import { lineAt, type Diagnostic } from './diagnostics/diagnostic.ts';
import { findings } from './diagnostics/findings.ts';
import type { NodeId, Places } from './places.ts';
import type { Stage } from './stages/stage.ts';
import { usualSurface } from './surfaces/registry.ts';
import { parseConditionText } from './surfaces/notation/texts.ts';
import { parametersIn, type Expression, type Parameter } from './tree.ts';

/**
 * Parameters that stand for a condition: the whole of a `where`, or one of the conditions in it that have to hold together. Its value is
 * a condition as text in the notation, which is read, checked and planned as if it stood there; where none is given, it holds.
 */
export function conditionParametersIn(stage: Stage): Parameter[] {
  if (stage.kind !== 'where') return [];
  const { condition } = stage;
  return (condition.kind === 'and' ? condition.operands : [condition]).filter((one) => one.kind === 'parameter');
}

/** The same of several stages, by name, each once. */
export function conditionParametersOf(stages: readonly Stage[]): string[] {
  return [...new Set(stages.flatMap(conditionParametersIn).map(({ name }) => name))];
}

const keepsDocuments: ReadonlySet<Stage['kind']> = new Set(['from', 'where', 'order', 'limit', 'offset', 'sample']);

/**
 * The collection (or view) whose documents a condition parameter asks about as they are; undefined where a line before it makes other
 * rows of them, or where there is no such parameter.
 */
export function sourceAskedBy(pipeline: string, parameter: string): string | undefined {
  const stages = usualSurface.parse(pipeline).stages.flatMap(({ stage, off }) => (stage === undefined || off ? [] : [stage]));
  const [first] = stages;
  const at = stages.findIndex((stage) => conditionParametersIn(stage).some(({ name }) => name === parameter));
  const asIs = at > 0 && stages.slice(0, at).every(({ kind }) => keepsDocuments.has(kind));
  return asIs && first?.kind === 'from' ? first.source : undefined;
}

/** A condition given as text that is none. */
export interface ConditionProblem {
  readonly parameter: Parameter;
  readonly message: string;
}

/**
 * A stage with the conditions that were given in the places of its parameters.
 * @param onProblem told of each that cannot be read; it is taken to hold then
 */
export function withConditions<S extends Stage>(
  stage: S,
  parameters: Readonly<Record<string, unknown>>,
  onProblem: (problem: ConditionProblem) => void = () => undefined,
): S {
  const named = conditionParametersIn(stage);
  if (named.length === 0 || stage.kind !== 'where') return stage;
  const { condition } = stage;
  const operands = (condition.kind === 'and' ? condition.operands : [condition]).flatMap((one): readonly Expression[] => {
    if (one.kind !== 'parameter') return [one];
    const given = conditionOf(one, Object.hasOwn(parameters, one.name) ? parameters[one.name] : undefined, onProblem);
    return given === undefined ? [] : given.kind === 'and' ? given.operands : [given];
  });
  const [first] = operands;
  const whole: Expression =
    operands.length === 1 && first !== undefined
      ? first
      : operands.length > 0
        ? { kind: 'and', operands, id: condition.id }
        : alwaysHolds(condition.id);
  return { ...stage, condition: whole };
}

/** Undefined where nothing is given, or what cannot be read. */
function conditionOf(parameter: Parameter, given: unknown, onProblem: (problem: ConditionProblem) => void): Expression | undefined {
  if (given === undefined || given === null) return undefined;
  const problem = (message: string): undefined => void onProblem({ parameter, message });
  if (typeof given !== 'string')
    return problem(`:${parameter.name} stands for a condition: give it one as text, such as "@.status == \\"late\\"".`);
  if (given.trim() === '') return undefined;
  const read = parseConditionText(given);
  if ('finding' in read)
    return problem(`In the condition given for :${parameter.name}, at “${snippet(given, read.finding.from)}”: ${read.finding.message}`);
  const [inner] = parametersIn(read.expression);
  if (inner !== undefined) return problem(`The condition given for :${parameter.name} has a parameter, :${inner}. Write the value itself.`);
  return withId(read.expression, parameter.id);
}

const snippet = (text: string, from: number): string => {
  const rest = text.slice(from, from + 20);
  return rest === '' ? 'its end' : rest;
};

/** What is given stands where its parameter does: all of it has the parameter's number. */
function withId<T>(node: T, id: NodeId): T {
  if (Array.isArray(node)) return node.map((one) => withId(one as unknown, id)) as T;
  if (typeof node !== 'object' || node === null) return node;
  const changed = Object.fromEntries(
    Object.entries(node).map(([key, value]) => [key, key === 'id' || key === 'nameId' ? id : withId(value as unknown, id)]),
  );
  return changed as T;
}

/** A condition that every row meets. */
function alwaysHolds(id: NodeId): Expression {
  const one: Expression = { kind: 'literal', value: true, id };
  return { kind: 'comparison', operator: '==', left: one, right: one, id };
}

/** What is wrong with the conditions that were given, at the places of their parameters. */
export function conditionProblems(
  stages: readonly Stage[],
  parameters: Readonly<Record<string, unknown>>,
  { text, places }: { readonly text: string; readonly places: Places },
): Diagnostic[] {
  const found: Diagnostic[] = [];
  for (const stage of stages)
    withConditions(stage, parameters, ({ parameter, message }) => {
      const at = places.of(parameter);
      found.push({ ...findings.badCondition(at, message), line: lineAt(text, at.from) });
    });
  return found;
}
