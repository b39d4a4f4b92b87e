/** Powers of ten around some values above 0, as the scale of a chart and its marks. */
export function tensAround(values: readonly number[]): { domain: [number, number]; ticks: number[] } {
  const low = Math.floor(Math.log10(Math.min(...values)));
  const high = Math.max(low + 1, Math.ceil(Math.log10(Math.max(...values))));
  const ticks = Array.from({ length: high - low + 1 }, (_, i) => 10 ** (low + i));
  return { domain: [ticks[0]!, ticks[ticks.length - 1]!], ticks };
}
