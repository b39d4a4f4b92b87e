// In every host that the core runs in; its types come with none of them alone.
declare const performance: { now(): number };

/** Milliseconds on a clock that only goes forward. */
export function milliseconds(): number {
  return performance.now();
}
