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

/** A server that has answered for a second has its functions compiled and its pages in: what is counted begins there. */
const warmMs = 1_000;

/** Works, at least twice, until it is warm; gives how often. */
async function warmUp(work) {
  const until = performance.now() + warmMs;
  let count = 0;
  while (count < 2 || performance.now() < until) await work(count++);
  return count;
}

/** Below this share of the best round before, a round is faster: more is being compiled. */
const isFaster = 0.95;
const mostRounds = 10;

/**
 * Works for a second after another until two are not faster than the best before them, ten at most: what goes through much code once is
 * compiled late, and on a slow machine later. Gives how often.
 */
async function warmUpWhole(work) {
  let count = 0;
  let best = Infinity;
  for (let round = 0, slower = 0; round < mostRounds && slower < 2; round++) {
    const start = performance.now();
    const done = await warmUp((i) => work(count + i));
    const each = (performance.now() - start) / done;
    count += done;
    slower = each < best * isFaster ? 0 : slower + 1;
    best = Math.min(best, each);
  }
  return count;
}

/** What is quick is measured for so long: on a machine that others share, some of a second says more of them than of the work. */
const measuredMs = 3_000;

/** Whether more is to be measured: at least so many times, and as long as there is time. */
const isMore = (times, most, since) => (i) => i < times || (i < most && performance.now() - since < measuredMs);

/** So long what has been collected is swept beside. */
const sweptMs = 500;

/**
 * Runs two pieces of work in turn, so many times and more where they are quick, and compares their medians. Each gives a value, which must agree where `same` says so.
 * @param before where each leaves so much behind that the next would pay for collecting it: lets go of it. Each run begins then with all
 * that has been left collected and swept, outside of its time.
 * @returns the ratio of ours to the other
 */
export async function compare({ title, ours, other, against, goal, times = 7, same, before }) {
  const a = [];
  const b = [];
  let first;
  let second;
  // Once, and not between the runs: what a collection leaves to do afterwards would fall on whichever comes next.
  globalThis.gc?.();
  await warmUp(async () => {
    await ours();
    await other();
  });
  const timed = async (work, taken) => {
    if (before !== undefined) {
      before();
      globalThis.gc?.();
      await new Promise((resolve) => setTimeout(resolve, sweptMs));
    }
    const start = performance.now();
    const value = await work();
    taken.push(performance.now() - start);
    return value;
  };
  const more = isMore(times, 1_000, performance.now());
  for (let i = 0; more(i); i++) {
    first = await timed(ours, a);
    second = await timed(other, b);
  }
  if (same && !same(first, second)) throw new Error(`${title}: the two give different answers`);
  const ratio = median(a) / median(b);
  const verdict = goal === undefined ? '' : ratio <= goal ? `goal ≤ ${goal}: met` : `goal ≤ ${goal}: missed`;
  process.stdout.write(
    `${title.padEnd(34)} ${shown(median(a)).padStart(9)}  against ${against.padEnd(30)} ${shown(median(b)).padStart(9)}  ratio ${ratio.toFixed(2).padStart(6)}  ${verdict}\n`,
  );
  return ratio;
}

/** Measures one piece of work alone, against a bound in milliseconds: so many times, and more of what is quick. */
export async function alone({ title, work, goalMs, times = 200 }) {
  const taken = [];
  // As in a comparison: what was left before is not collected while this is timed.
  globalThis.gc?.();
  const warm = await warmUpWhole(work);
  const more = isMore(times, 100_000, performance.now());
  for (let i = 0; more(i); i++) {
    const start = performance.now();
    await work(warm + i);
    taken.push(performance.now() - start);
  }
  const ms = median(taken);
  process.stdout.write(
    `${title.padEnd(34)} ${shown(ms).padStart(9)}  median of ${whole.format(taken.length)}  goal ≤ ${shown(goalMs)}: ${ms <= goalMs ? 'met' : 'missed'}\n`,
  );
}
