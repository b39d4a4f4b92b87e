/** What a plan names, which is there while the plan runs. */
export function existing<T>(value: T | undefined): T {
  if (value === undefined) throw new Error('a plan names an index that is not built');
  return value;
}
