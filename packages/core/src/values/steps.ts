/** Long work in steps of some tens of milliseconds: yields the share that is done, from 0 to 1, so that others get their turn. */
export type Steps<T> = Generator<number, T, void>;

/** Work in steps, done at once. */
export function atOnce<T>(steps: Steps<T>): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}

/** The steps of a part of a longer work, as shares of the whole. */
export function* part<T>(steps: Steps<T>, from: number, to: number): Steps<T> {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    yield from + (to - from) * step.value;
  }
}
