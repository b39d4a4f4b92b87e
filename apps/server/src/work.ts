import { randomUUID } from 'node:crypto';
import { setTimeout as sleep } from 'node:timers/promises';
import type { UnderWay } from '@zesty-sieve/contract';
import type { Events } from './events.ts';

/** So long is waited for who knows how far work has come: a thread that is hard at work tells it a little later. */
const patienceMs = 200;

/** How far work has come. */
export type Come = Partial<Pick<UnderWay, 'share' | 'documents'>>;

interface Beginning extends Pick<UnderWay, 'kind' | 'of' | 'detail'> {
  /** The name by which whoever asked for it knows it, where it has one. */
  readonly track?: string | undefined;
  /** Ends it; undefined where it cannot be ended. */
  readonly cancel?: () => unknown;
  /** Asks how far it has come, where that is not told on the way. */
  readonly look?: () => Promise<Come>;
}

interface Listed extends Beginning {
  readonly since: string;
  come: Come;
}

/** Work that takes long and is under way, whoever asked for it: seen and ended by everyone, and from another window. */
export class WorkList {
  private readonly underWay = new Map<string, Listed>();
  private readonly events: Events;

  constructor(events: Events) {
    this.events = events;
  }

  /** Does work, which is on the list for as long as it takes. */
  async during<T>(beginning: Beginning, work: (come: (come: Come) => void) => Promise<T>): Promise<T> {
    const { track } = beginning;
    const id = track === undefined || this.underWay.has(track) ? randomUUID() : track;
    const entry: Listed = { ...beginning, since: new Date().toISOString(), come: {} };
    this.underWay.set(id, entry);
    this.events.tell({ kind: 'work', work: this.told() });
    try {
      return await work((come) => (entry.come = come));
    } finally {
      this.underWay.delete(id);
      this.events.tell({ kind: 'work', work: this.told() });
    }
  }

  /** In the order in which they began. */
  async list(): Promise<UnderWay[]> {
    const looking = [...this.underWay.values()].map(
      async (entry) => (entry.come = (await entry.look?.().catch(() => undefined)) ?? entry.come),
    );
    await Promise.race([Promise.all(looking), sleep(patienceMs, undefined, { ref: false })]);
    return this.told();
  }

  /** With what is known of how far each has come. */
  private told(): UnderWay[] {
    return [...this.underWay].map(
      ([
        id,
        {
          kind,
          of,
          detail,
          since,
          cancel,
          come: { share = null, documents },
        },
      ]) => {
        const more = { ...(detail !== undefined && { detail }), ...(documents !== undefined && { documents }) };
        return { id, kind, of, since, share, ...more, canBeCancelled: cancel !== undefined };
      },
    );
  }

  /** Ends work. @returns whether there is such that can be ended */
  async cancel(id: string): Promise<boolean> {
    const cancel = this.underWay.get(id)?.cancel;
    await cancel?.();
    return cancel !== undefined;
  }
}

/** The share that is done, where the whole is known. */
export const shareOf = (done: number, of: number): number | null => (of > 0 ? Math.min(1, done / of) : null);
