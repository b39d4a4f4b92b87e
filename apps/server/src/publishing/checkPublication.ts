import type { PublishedParameter } from '@zesty-sieve/contract';
import type { Json } from '@zesty-sieve/core';
import {
  checkPipeline,
  conditionParametersOf,
  expressionsOf,
  parametersOf,
  printExpression,
  usualSurface,
  type Stage,
} from '@zesty-sieve/core/language';
import { ServerProblem } from '../problem.ts';
import type { StoredPipeline } from '../storage/savedPipeline.ts';
import type { StoredPublication } from '../storage/rooms/publications.ts';
import { columnNames } from './columnNames.ts';
import { fieldPaths, isDate, reservedNames, type Fault } from './parameters.ts';

/** Whether a pipeline's rows are others each time that they are worked out, so that they cannot be kept until something changes. */
export function goesByTime(pipeline: string): boolean {
  return stagesOf(pipeline).some(
    (stage) =>
      (stage.kind === 'sample' && stage.seed === undefined) || expressionsOf(stage).some((one) => printExpression(one).includes('now()')),
  );
}

const stagesOf = (pipeline: string): Stage[] => {
  const { stages, sources = [] } = usualSurface.parse(pipeline);
  return [...sources.flatMap((one) => one.stages), ...stages].flatMap(({ stage, off }) => (stage === undefined || off ? [] : [stage]));
};

/**
 * Whether a publication can be answered: its parameters are those of the pipeline, in their kinds, and every one has a value.
 * @throws ServerProblem with everything that is wrong
 */
export function checkPublication(publication: StoredPublication, saved: StoredPipeline, sourceNames: readonly string[]): void {
  const pipeline = usualSurface.parse(saved.pipeline);
  const [error] = checkPipeline(pipeline, { collections: [...sourceNames] }).diagnostics.filter(({ severity }) => severity === 'error');
  if (error !== undefined) throw new ServerProblem('/pipeline', `${saved.name} has errors: line ${error.line}: ${error.message}`);
  const names = new Set(parametersOf(pipeline));
  const conditions = new Set(conditionParametersOf(stagesOf(saved.pipeline)));
  const faults: Fault[] = [];
  const declared = new Set<string>();
  for (const parameter of publication.parameters) {
    const { name } = parameter;
    const fault = (message: string) => void faults.push({ parameter: name, message });
    if (declared.has(name)) fault(`${name} is described twice.`);
    declared.add(name);
    if (reservedNames.has(name)) fault(`${name} has a meaning of its own in an address. Call the parameter otherwise.`);
    if (!names.has(name)) fault(`The pipeline has no parameter :${name}.`);
    else if (conditions.has(name) !== (parameter.kind === 'condition'))
      fault(
        conditions.has(name) ? `:${name} stands for a condition: its kind is condition.` : `:${name} stands for a value, and no condition.`,
      );
    const wrong = definitionProblem(parameter);
    if (wrong !== undefined) fault(wrong);
  }
  for (const name of names)
    if (!declared.has(name) && !conditions.has(name) && saved.parameters?.[name] === undefined)
      faults.push({ parameter: name, message: `:${name} has no value: describe it, or save the pipeline with one.` });
  for (const { path } of publication.columns ?? [])
    if (columnNames(path) === undefined)
      faults.push({
        parameter: path,
        message: `The column ${path} is no path of fields from a row, such as @.hut.name or @["per night"].`,
      });
  if (faults.length > 0) throw new ServerProblem('/parameters', faults.map(({ message }) => message).join(' '), { faults });
  if (publication.cache !== null && 'until' in publication.cache && goesByTime(saved.pipeline))
    throw new ServerProblem(
      '/request',
      'Its rows are others each time, by now() or a sample without a seed: they cannot be kept until something changes. Keep them for a time.',
    );
}

function definitionProblem(parameter: PublishedParameter): string | undefined {
  const { name, kind, of, choices, least, greatest, fields } = parameter;
  if (of !== undefined && kind !== 'list') return `${name} is no list: it is of nothing.`;
  if (fields !== undefined && kind !== 'condition') return `${name} is no condition: it has no fields.`;
  if (kind === 'condition') {
    if (choices !== undefined || least !== undefined || greatest !== undefined)
      return `${name} is a condition: it has fields, and no choices or bounds.`;
    const unreadable = fieldPaths(parameter).find((path) => !/^[@$]/.test(path));
    if (unreadable !== undefined) return `The field ${unreadable} of ${name} is written as in the notation: @.${unreadable}.`;
  }
  const single = kind === 'list' ? (of ?? 'text') : kind;
  for (const value of [...(choices ?? []), ...(least === undefined ? [] : [least]), ...(greatest === undefined ? [] : [greatest])])
    if (!isOfKind(value, single)) return `${JSON.stringify(value)} is no ${single}, as ${name} is.`;
  if (parameter.default === undefined) return undefined;
  const given: Json = parameter.default;
  const isRight = kind === 'list' ? Array.isArray(given) && given.every((one) => isOfKind(one, single)) : isOfKind(given, single);
  return isRight ? undefined : `The value of ${name} where none is given, ${JSON.stringify(given)}, is no ${kind}.`;
}

function isOfKind(value: Json, kind: PublishedParameter['kind']): boolean {
  if (kind === 'number') return typeof value === 'number';
  if (kind === 'boolean') return typeof value === 'boolean';
  return typeof value === 'string' && (kind !== 'date' || isDate(value));
}
