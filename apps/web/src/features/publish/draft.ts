import type { Publication, PublishedParameter, PutPublication, SavedPipeline } from '@zesty-sieve/contract';
import { conditionParametersOf, expressionsOf, parametersOf, printExpression, usualSurface, walk } from '@zesty-sieve/core/language';

/** The parameters of a saved pipeline, described as well as its text and its values tell. */
export function describedFor({ pipeline, parameters: saved }: Pick<SavedPipeline, 'pipeline' | 'parameters'>): PublishedParameter[] {
  const parsed = usualSurface.parse(pipeline);
  const stages = parsed.stages.flatMap(({ stage, off }) => (stage === undefined || off ? [] : [stage]));
  const conditions = new Set(conditionParametersOf(stages));
  return parametersOf(parsed).map((name): PublishedParameter => {
    if (conditions.has(name)) return { name, kind: 'condition', fields: fieldsIn(pipeline) };
    const value = saved?.[name];
    const kind = Array.isArray(value) ? 'list' : typeof value === 'number' ? 'number' : typeof value === 'boolean' ? 'boolean' : 'text';
    const ofNumbers = Array.isArray(value) && value.length > 0 && value.every((one) => typeof one === 'number');
    return { name, kind, ...(ofNumbers && { of: 'number' as const }), ...(value !== undefined && value !== null && kindFits(value, kind) && { default: value }) };
  });
} // prettier-ignore

const kindFits = (value: unknown, kind: string): boolean =>
  kind === 'text' ? typeof value === 'string' : kind === 'list' ? Array.isArray(value) : typeof value === kind;

/** Single paths that a pipeline speaks of: the fields that a caller may well ask about. */
function fieldsIn(pipeline: string): string[] {
  const found = new Set<string>();
  for (const { stage } of usualSurface.parse(pipeline).stages)
    if (stage !== undefined) for (const expression of expressionsOf(stage)) walk(expression, (node) => void (node.kind === 'path' && node.segments.length > 0 && /^@(\.\w+)+$/.test(printExpression(node)) && found.add(printExpression(node))));
  return [...found];
} // prettier-ignore

/** A publication as it is put. */
export function putOf({ pipeline, title, parameters, cache, guards, maxRows, access, origins, columns }: Publication): PutPublication {
  return {
    pipeline,
    ...(title !== null && { title }),
    parameters,
    cache,
    guards,
    maxRows,
    access,
    origins,
    ...(columns !== null && { columns }),
  };
}
