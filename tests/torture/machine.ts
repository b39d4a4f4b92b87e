import { readFileSync } from 'node:fs';

/** Ticks of all processors so far, and those that the host of this machine gave to others (proc(5), `steal`). */
function ticks(): { readonly all: number; readonly stolen: number } | undefined {
  try {
    const [, ...numbers] = readFileSync('/proc/stat', 'utf8').split('\n')[0].split(/\s+/);
    // What guests take is counted among the first already.
    const kinds = numbers.slice(0, 8).map(Number);
    return { all: kinds.reduce((sum, n) => sum + n, 0), stolen: kinds[7] };
  } catch {
    return undefined;
  }
}

/** From now on until it is asked: the share of the processors that others had; undefined where the system does not tell. */
export function cpuTaken(): () => { readonly stolen: number | undefined } {
  const before = ticks();
  return () => {
    const after = ticks();
    if (before === undefined || after === undefined) return { stolen: undefined };
    return { stolen: (after.stolen - before.stolen) / Math.max(1, after.all - before.all) };
  };
}
