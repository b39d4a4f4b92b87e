const whole = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });

function median(times) {
  const sorted = [...times].sort((a, b) => a - b);
  return sorted[sorted.length >> 1];
}

/** Milliseconds as they are shown. */
export function shown(ms) {
  if (ms < 0.1) return `${whole.format(ms * 1000)} µs`;
  return ms < 10 ? `${ms.toFixed(2)} ms` : `${whole.format(ms)} ms`;
}

/**
 * Runs two pieces of work in turn and compares their medians. Each gives a value, which must agree where `same` says so.
 * @returns the ratio of ours to the other
 */
export async function compare({ title, ours, other, against, goal, times = 7, same }) {
  const a = [];
  const b = [];
  let first;
  let second;
  // Once, and not between the runs: what a collection leaves to do afterwards would fall on whichever comes next.
  globalThis.gc?.();
  for (let i = -2; i < times; i++) {
    const startA = performance.now();
    first = await ours();
    const middle = performance.now();
    const startB = performance.now();
    second = await other();
    const end = performance.now();
    // The first two of each are not counted: functions are compiled and pages brought in.
    if (i >= 0) {
      a.push(middle - startA);
      b.push(end - startB);
    }
  }
  if (same && !same(first, second)) throw new Error(`${title}: the two give different answers`);
  const ratio = median(a) / median(b);
  const verdict = goal === undefined ? '' : ratio <= goal ? `goal ≤ ${goal}: met` : `goal ≤ ${goal}: missed`;
  process.stdout.write(
    `${title.padEnd(34)} ${shown(median(a)).padStart(9)}  against ${against.padEnd(30)} ${shown(median(b)).padStart(9)}  ratio ${ratio.toFixed(2).padStart(6)}  ${verdict}\n`,
  );
  return ratio;
}

/** Measures one piece of work alone, against a bound in milliseconds. */
export async function alone({ title, work, goalMs, times = 200 }) {
  const taken = [];
  for (let i = -20; i < times; i++) {
    const start = performance.now();
    await work(i + 20);
    if (i >= 0) taken.push(performance.now() - start);
  }
  const ms = median(taken);
  process.stdout.write(
    `${title.padEnd(34)} ${shown(ms).padStart(9)}  median of ${times}  goal ≤ ${shown(goalMs)}: ${ms <= goalMs ? 'met' : 'missed'}\n`,
  );
}
