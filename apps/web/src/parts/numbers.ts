const whole = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });
const twoDigits = new Intl.NumberFormat('en', { maximumFractionDigits: 2 });
const oneDigit = new Intl.NumberFormat('en', { maximumFractionDigits: 1 });

export function count(value: number): string {
  return whole.format(value);
}

const exact = new Intl.NumberFormat('en', { maximumFractionDigits: 20 });

/** A value that somebody's documents hold, told as it is. */
export function figure(value: number): string {
  const size = Math.abs(value);
  return size !== 0 && (size < 1e-6 || size >= 1e21) ? String(value) : exact.format(value);
}

/** One that was worked out, without what adding up leaves behind its last digits. */
export function workedOut(value: number): string {
  return figure(Number(value.toPrecision(14)));
}

/** `1 document`, `20 documents`. */
export function counted(value: number, one: string, many = one + 's'): string {
  return `${count(value)} ${value === 1 ? one : many}`;
}

export function duration(ms: number): string {
  if (ms < 0.005) return '0 ms';
  if (ms < 0.995) return `${twoDigits.format(ms)} ms`;
  if (ms < 10) return `${oneDigit.format(ms)} ms`;
  return ms < 10_000 ? `${whole.format(ms)} ms` : `${oneDigit.format(ms / 1000)} s`;
}

/** Of microseconds: `35 µs`, and from a millisecond on as such. */
export function brief(us: number): string {
  return us < 995 ? `${whole.format(Math.max(1, us))}\u00a0µs` : duration(us / 1_000);
}

export function bytes(value: number): string {
  if (value < 1_024) return `${whole.format(value)} B`;
  if (value < 1_024 * 1_024) return `${whole.format(value / 1_024)} KB`;
  return `${oneDigit.format(value / 1_024 / 1_024)} MB`;
}

/** A share that never rounds to none or to all. */
export function percent(share: number): string {
  if (share <= 0) return '0\u00a0%';
  if (share >= 1) return '100\u00a0%';
  if (share < 0.01) return '<\u00a01\u00a0%';
  if (share > 0.99) return '>\u00a099\u00a0%';
  return `${(share < 0.1 || share > 0.9 ? oneDigit : whole).format(share * 100)}\u00a0%`;
}
