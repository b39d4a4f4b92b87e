import { LRUCache } from 'lru-cache';
import type { PublicationCache } from '@zesty-sieve/contract';

/** An answer as it is sent. */
export interface Computed {
  readonly body: Buffer;
  readonly type: string;
  /** Of the rest, where there is more. */
  readonly next: string | undefined;
  readonly documentsRead: number;
  /** How far it can be relied on, where some that belong to it may be lacking. */
  readonly approximate: string | undefined;
  /** When kept rows were made that it rests on, where they were out of date. */
  readonly asOf: string | undefined;
  /** Of its bytes (RFC 9110, 8.8.3). */
  readonly tag: string;
  /** Tells one state of what was read from another; undefined where it changed while it was read. */
  readonly state: string | undefined;
}

interface Kept {
  readonly answer: Computed;
  readonly at: number;
  /** Why it could not be made anew, where that was tried and failed. */
  failure: string | undefined;
  triedAt: number;
}

/** An answer, and how it was come by: by the words of RFC 9211. */
export interface Served {
  readonly answer: Computed;
  readonly how: 'hit' | 'miss' | 'collapsed' | 'stale';
  /** Milliseconds since it was made. */
  readonly ageMs: number;
  /** Why the older answer stands, where it could not be made anew. */
  readonly failure: string | undefined;
}

const held = 600;
/** What failed is not tried again by every call. */
const againMs = 1_000;

/**
 * Keeps answers: by time, or until what they were read from has changed. One computation at a time for each question, however many ask.
 * Bounded by bytes; those not used longest go first.
 */
export class AnswerCache {
  private readonly kept: LRUCache<string, Kept>;
  private readonly underway = new Map<string, Promise<Computed>>();
  private readonly now: () => number;

  constructor(maxBytes: number, now: () => number = Date.now) {
    this.kept = new LRUCache({
      maxSize: maxBytes,
      maxEntrySize: maxBytes / 4,
      sizeCalculation: ({ answer }, key) => answer.body.length + key.length * 2 + held,
    });
    this.now = now;
  }

  get heldBytes(): number {
    return this.kept.calculatedSize;
  }

  /** Without being kept, and still once for all who ask at the same time. */
  async shared(key: string, compute: () => Promise<Computed>): Promise<Served> {
    const isFirst = !this.underway.has(key);
    return { answer: await this.once(key, compute), how: isFirst ? 'miss' : 'collapsed', ageMs: 0, failure: undefined };
  }

  /** An answer that stands as long as the state of what it was read from. */
  async untilChange(key: string, state: string, compute: () => Promise<Computed>): Promise<Served> {
    const kept = this.kept.get(key);
    if (kept?.answer.state === state) return this.served(kept, 'hit');
    // Whoever asks after a change waits for none that was begun before it.
    const own = `${key}\n${state}`;
    const isFirst = !this.underway.has(own);
    const answer = await this.once(own, compute);
    if (answer.state !== undefined) this.keep(key, answer);
    return { answer, how: isFirst ? 'miss' : 'collapsed', ageMs: 0, failure: undefined };
  }

  /** An answer that stands for a time, is made anew in the background from half of it on, and stands longer where that is allowed (RFC 5861). */
  async forTime(
    key: string,
    { freshSeconds, staleSeconds }: Extract<PublicationCache, { freshSeconds: number }>,
    compute: () => Promise<Computed>,
  ): Promise<Served> {
    const kept = this.kept.get(key);
    const ageMs = kept === undefined ? Infinity : this.now() - kept.at;
    if (kept !== undefined && ageMs < (freshSeconds + staleSeconds) * 1_000) {
      if (ageMs >= freshSeconds * 500) this.refresh(key, kept, compute);
      return this.served(kept, ageMs < freshSeconds * 1_000 ? 'hit' : 'stale');
    }
    const isFirst = !this.underway.has(key);
    const answer = await this.once(key, async () => this.keep(key, await compute()));
    return { answer, how: isFirst ? 'miss' : 'collapsed', ageMs: 0, failure: undefined };
  }

  private refresh(key: string, kept: Kept, compute: () => Promise<Computed>): void {
    if (this.underway.has(key) || this.now() - kept.triedAt < againMs) return;
    kept.triedAt = this.now();
    this.once(key, async () => this.keep(key, await compute())).catch((error: unknown) => {
      kept.failure = error instanceof Error ? error.message : String(error);
    });
  }

  private served(kept: Kept, how: Served['how']): Served {
    return { answer: kept.answer, how, ageMs: this.now() - kept.at, failure: kept.failure };
  }

  private keep(key: string, answer: Computed): Computed {
    this.kept.set(key, { answer, at: this.now(), failure: undefined, triedAt: 0 });
    return answer;
  }

  private once(key: string, compute: () => Promise<Computed>): Promise<Computed> {
    let there = this.underway.get(key);
    if (there === undefined) {
      there = compute().finally(() => this.underway.delete(key));
      this.underway.set(key, there);
    }
    return there;
  }
}
