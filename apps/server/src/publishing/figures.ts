import type { HourFigures, Publication } from '@zesty-sieve/contract';
import type { FiguresOfHour, LastFailure, StoredFigures } from '../storage/rooms/publications.ts';

/** Upper bounds of times in milliseconds, each a quarter more than the one before: a time is known to within that. */
const bounds = Array.from({ length: 64 }, (_, i) => 0.05 * 1.25 ** i);
const bucketOf = (ms: number): number => {
  const at = bounds.findIndex((bound) => ms <= bound);
  return at < 0 ? bounds.length - 1 : at;
};

const hourOf = (at: number): string => `${new Date(at).toISOString().slice(0, 13)}:00:00Z`;
const writtenEveryMs = 5_000;
export const keptDays = 7;

interface Open {
  calls: number;
  fromCache: number;
  documentsRead: number;
  documentsSaved: number;
  failures: number;
  readonly slow: number[];
}

export interface Call {
  readonly ms: number;
  readonly fromCache: boolean;
  readonly documentsRead: number;
  readonly documentsSaved: number;
  readonly failure?: string | undefined;
}

/** What is asked of publications, by the hour; written every few seconds. */
export class Figures {
  private readonly hours = new Map<string, Map<string, Open>>();
  private readonly changed = new Set<string>();
  private readonly failures = new Map<string, LastFailure>();
  private readonly used = new Map<string, string>();
  private timer: NodeJS.Timeout | undefined;
  private readonly write: (
    hours: readonly FiguresOfHour[],
    used: readonly (readonly [string, string])[],
    failures: readonly (readonly [string, LastFailure])[],
    before: string,
  ) => Promise<unknown>;

  constructor(write: Figures['write']) {
    this.write = write;
  }

  begin(stored: readonly FiguresOfHour[], failures: readonly (readonly [string, LastFailure | null])[]): void {
    for (const { publication, hour, ...figures } of stored) this.hoursOf(publication).set(hour, { ...figures, slow: [...figures.slow] });
    for (const [name, failure] of failures) if (failure !== null) this.failures.set(name, failure);
  }

  add(publication: string, { ms, fromCache, documentsRead, documentsSaved, failure }: Call): void {
    const hour = hourOf(Date.now());
    const hours = this.hoursOf(publication);
    let open = hours.get(hour);
    if (open === undefined)
      hours.set(hour, (open = { calls: 0, fromCache: 0, documentsRead: 0, documentsSaved: 0, failures: 0, slow: [] }));
    open.calls++;
    if (fromCache) open.fromCache++;
    open.documentsRead += documentsRead;
    open.documentsSaved += documentsSaved;
    const bucket = bucketOf(ms);
    while (open.slow.length <= bucket) open.slow.push(0);
    open.slow[bucket]!++;
    if (failure !== undefined) {
      open.failures++;
      this.failures.set(publication, { at: new Date().toISOString(), message: failure });
      this.changed.add(`failure ${publication}`);
    }
    this.changed.add(`${publication} ${hour}`);
    this.later();
  }

  keyUsed(id: string): void {
    this.used.set(id, new Date().toISOString());
    this.later();
  }
  lastUsed(id: string): string | undefined {
    return this.used.get(id);
  }

  forget(publication: string): void {
    this.hours.delete(publication);
    this.failures.delete(publication);
  }

  of(publication: string): Pick<Publication, 'figures' | 'totals'> {
    const since = hourOf(Date.now() - keptDays * 86_400_000);
    const hours = [...this.hoursOf(publication)].filter(([hour]) => hour >= since).sort(([a], [b]) => (a < b ? -1 : 1));
    const all: Open = { calls: 0, fromCache: 0, documentsRead: 0, documentsSaved: 0, failures: 0, slow: [] };
    for (const [, one] of hours) {
      for (const name of ['calls', 'fromCache', 'documentsRead', 'documentsSaved', 'failures'] as const) all[name] += one[name];
      one.slow.forEach((count, at) => (all.slow[at] = (all.slow[at] ?? 0) + count));
    }
    return {
      figures: hours.map(([from, one]) => ({ from, ...toldOf(one) })),
      totals: { ...toldOf(all), lastFailure: this.failures.get(publication) ?? null },
    };
  }

  async flush(): Promise<void> {
    clearTimeout(this.timer);
    this.timer = undefined;
    const changed = [...this.changed];
    this.changed.clear();
    const hours = changed.flatMap((key): FiguresOfHour[] => {
      const [publication = '', hour = ''] = key.split(' ');
      const open = this.hours.get(publication)?.get(hour);
      return open === undefined ? [] : [{ publication, hour, ...open }];
    });
    const failures = changed.flatMap((key) => {
      const name = key.startsWith('failure ') ? key.slice(8) : '';
      const failure = this.failures.get(name);
      return failure === undefined ? [] : [[name, failure] as const];
    });
    await this.write(hours, [...this.used], failures, hourOf(Date.now() - keptDays * 86_400_000)).catch(() => undefined);
  }

  private later(): void {
    this.timer ??= setTimeout(() => void this.flush(), writtenEveryMs).unref();
  }

  private hoursOf(publication: string): Map<string, Open> {
    let hours = this.hours.get(publication);
    if (hours === undefined) this.hours.set(publication, (hours = new Map()));
    return hours;
  }
}

function toldOf({ slow, ...figures }: StoredFigures): Omit<HourFigures, 'from'> {
  return { ...figures, slowestTenthMs: slowestTenth(slow) };
}

/** So long or longer took the slowest tenth, to within a quarter. */
function slowestTenth(slow: readonly number[]): number {
  let left = slow.reduce((sum, count) => sum + count, 0) / 10;
  for (let at = slow.length - 1; at >= 0; at--) {
    left -= slow[at]!;
    if (left <= 0) return Math.round(bounds[at]! * 100) / 100;
  }
  return 0;
}
