import type { Field } from '@zesty-sieve/contract';
import { pathText, type FieldStep, type FlatField, type Oddity } from '@zesty-sieve/core';

/** A field as the API tells of it. */
export function fieldOf({ steps, info }: FlatField, oddities: readonly Oddity[] = []): Field {
  const { histogram, formats, top, ...rest } = info;
  return {
    path: pathOf(steps),
    steps: [...steps],
    ...rest,
    top: [...top],
    ...(histogram && { histogram: { ...histogram, counts: [...histogram.counts] } }),
    ...(formats && { formats: [...formats] }),
    ...(oddities.length > 0 && { oddities: oddities.map(({ message }) => message) }),
  };
}

function pathOf(steps: readonly FieldStep[]): string {
  return steps.reduce((path, step) => ('field' in step ? pathText([step.field], path) : path + '[*]'), '@');
}
