import { Worker } from 'node:worker_threads';
import { ServerProblem } from '../problem.ts';
import type { CallOptions, Remote, ThreadOptions } from './threadOptions.ts';
import type { CancelFlag } from './cancelFlag.ts';
import { collectBesideWork } from './collecting.ts';
import { within } from './within.ts';
import {
  Askable,
  beats,
  errorOf,
  failureOf,
  messagesSent,
  sharedBytes,
  transferListOf,
  type FromService,
  type ToService,
} from './messages.ts';

export type { CallOptions, Remote, ThreadOptions };

/** Steps of a plan work within one another, and so do views: a pipeline may have thousands of lines. Pages of it are taken when they are used. */
const stackSizeMb = 16;

interface UnderWay {
  readonly resolve: (value: never) => void;
  readonly reject: (error: Error) => void;
  readonly asks: readonly unknown[];
  readonly cancel: CancelFlag | undefined;
  readonly isLong: boolean;
}

const stuckByDefault = { cancelled: 10_000, otherwise: 60_000 };
const lookMs = 500;
const beginAgainMs = 500;
const beginMs = 60_000;

/**
 * A service in a thread of its own, called by its methods' names. A call keeps nothing after it has settled. Functions
 * among its arguments can be asked by the service as long as the call lasts. When the thread ends, calls that are under
 * way are told so, and it begins anew. It is ended for what is really stuck, and only that: where it has not got to its messages for
 * `stuckMs`, which it counts in memory that both share.
 */
export class Thread<S extends object> {
  private readonly options: ThreadOptions<S>;
  private worker!: Worker;
  private readonly underWay = new Map<number, UnderWay>();
  private lastId = 0;
  private ready!: Promise<void>;
  private closing = false;
  private reason = '';
  private shared!: Int32Array;
  private watch: NodeJS.Timeout | undefined;
  private readonly remote: Remote<S>;
  /** How often it had to begin anew. */
  restarts = 0;

  constructor(options: ThreadOptions<S>) {
    this.options = options;
    this.remote = this.remoteWith({});
    this.start();
  }

  private start(): void {
    collectBesideWork();
    const { url, heapMegabytes, youngMegabytes, name } = this.options;
    const shared = new Int32Array(new SharedArrayBuffer(sharedBytes));
    this.shared = shared;
    const worker = new Worker(url, {
      resourceLimits: { maxOldGenerationSizeMb: heapMegabytes, maxYoungGenerationSizeMb: youngMegabytes, stackSizeMb },
      workerData: { shared: shared.buffer },
    });
    this.worker = worker;
    this.reason = `The ${name} was ended, and begins anew.`;
    worker.on('message', (message: FromService) => this.take(message));
    worker.on('messageerror', (error) => {
      // Which call it was for cannot be read either; one that is never answered would be waited for without an end.
      this.reason = `The ${name} sent what cannot be read: ${error.message}`;
      this.giveUp()();
    });
    worker.on('error', (error: Error & { code?: string }) => {
      this.reason =
        error.code === 'ERR_WORKER_OUT_OF_MEMORY'
          ? `The ${name} ran out of memory and begins anew.`
          : `The ${name} failed and begins anew: ${error.message}`;
    });
    worker.on('exit', () => {
      const tell = this.giveUp();
      if (!this.closing && this.worker === worker) {
        this.restarts++;
        this.start();
      }
      tell();
    });
    this.ready = this.options.begin(this.remote);
    // Nobody may be waiting when it fails; then it is tried again, since all that is needed may be there a little later.
    this.ready.catch(() => {
      if (!this.closing && this.worker === worker && this.restarts > 0) setTimeout(() => void worker.terminate(), beginAgainMs);
    });
  }

  /** Gives up all that is under way, for the reason that is known; what it gives tells those who wait. */
  private giveUp(): () => void {
    const ended = [...this.underWay.values()];
    const { reason } = this;
    this.underWay.clear();
    return () => {
      for (const { reject } of ended) reject(new ServerProblem('/restarted', reason));
    };
  }

  /** Waits until the service can be used. */
  async started(): Promise<void> {
    await this.ready;
  }

  /** Calls the service. */
  async call<R>(work: (service: Remote<S>) => R, options?: CallOptions): Promise<Awaited<R>> {
    await this.ready;
    return await work(options === undefined ? this.remote : this.remoteWith(options));
  }

  private remoteWith(options: CallOptions): Remote<S> {
    return new Proxy({} as Remote<S>, {
      get: (_target, method) =>
        // A promise is asked for its `then`: a service has none.
        typeof method === 'string' && method !== 'then' ? (...args: unknown[]) => this.send(method, args, options) : undefined,
    });
  }

  private send(method: string, args: readonly unknown[], options: CallOptions): Promise<never> {
    const { once, cancel, limitMs, isLong = false } = options;
    // Nobody would ever answer.
    if (this.closing) return Promise.reject(this.closed);
    return new Promise<never>((resolve, reject) => {
      const id = ++this.lastId;
      const { worker } = this;
      let limit: NodeJS.Timeout | undefined;
      const limited = (ms: number): void => {
        limit = setTimeout(() => {
          if ([...this.underWay.values()].some((call) => call.isLong)) {
            limited(ms);
            return;
          }
          this.reason = `The ${this.options.name} took longer than ${Math.round(ms / 1000)} s for ${method}, and begins anew.`;
          void worker.terminate();
        }, ms);
      };
      if (limitMs !== undefined) limited(limitMs);
      const settled = <A extends unknown[]>(then: (...given: A) => void) => {
        return (...given: A): void => {
          clearTimeout(limit);
          this.underWay.delete(id);
          if (this.underWay.size === 0) this.stopWatching();
          then(...given);
        };
      };
      this.underWay.set(id, { resolve: settled(resolve), reject: settled(reject), asks: args, cancel, isLong });
      this.startWatching();
      const sent = args.map((arg) => (typeof arg === 'function' ? new Askable() : arg));
      try {
        this.post(worker, { kind: 'call', id, method, args: sent, ...(once && { once }) }, transferListOf(args));
      } catch (error) {
        this.underWay.get(id)?.reject(error as Error);
      }
    });
  }

  private post(worker: Worker, message: ToService, transferred: readonly ArrayBuffer[] = []): void {
    worker.postMessage(message, transferred);
    if (worker === this.worker) Atomics.add(this.shared, messagesSent, 1);
  }

  private take(message: FromService): void {
    const call = this.underWay.get(message.id);
    if (message.kind === 'done') call?.resolve(message.value as never);
    else if (message.kind === 'ask') void this.answer(message, call);
    else {
      const error = errorOf(message.failure);
      // What goes wrong while it is being closed goes wrong because of that, unless it says what it is.
      call?.reject(this.closing && !(error instanceof ServerProblem) ? this.closed : error);
    }
  }

  private get closed(): ServerProblem {
    return new ServerProblem('/restarted', `The ${this.options.name} has been closed.`);
  }

  private async answer({ ask, place, args }: FromService & { kind: 'ask' }, call: UnderWay | undefined): Promise<void> {
    const { worker } = this;
    const reply = (message: ToService): void => this.post(worker, message);
    try {
      const asked = call?.asks[place] as ((...args: readonly unknown[]) => unknown) | undefined;
      if (asked === undefined) throw new Error('this call has been answered');
      reply({ kind: 'answer', ask, value: await asked(...args) });
    } catch (error) {
      reply({ kind: 'answer', ask, failure: failureOf(error) });
    }
  }

  /** Looks, as long as a call is under way, whether the thread gets to its messages. */
  private startWatching(): void {
    if (this.watch !== undefined) return;
    const { cancelled, otherwise } = this.options.stuckMs ?? stuckByDefault;
    let beat = -1;
    let stillMs = 0;
    this.watch = setInterval(() => {
      const now = Atomics.load(this.shared, beats);
      // By looks, not by the clock: after the machine has slept, both have.
      stillMs = now === beat ? stillMs + lookMs : 0;
      beat = now;
      const isCancelled = [...this.underWay.values()].some(({ cancel }) => cancel?.isCancelled);
      // One that has not begun yet has its code to read, which takes a while on a machine that is busy.
      const patienceMs = now === 0 ? beginMs : isCancelled ? cancelled : otherwise;
      if (stillMs < patienceMs) return;
      this.reason = `The ${this.options.name} was stuck for ${Math.round(stillMs / 1000)} s, and begins anew.`;
      stillMs = 0;
      void this.worker.terminate();
    }, lookMs);
    this.watch.unref();
  }

  private stopWatching(): void {
    clearInterval(this.watch);
    this.watch = undefined;
  }

  /** How many calls are under way. */
  get load(): number {
    return this.underWay.size;
  }

  /** Ends the thread, whatever it is doing, and begins it anew. */
  async restart(): Promise<void> {
    await this.worker.terminate();
  }

  /**
   * Ends it. Nothing can be asked of it any more; what is under way and does not come to its end is told that it has been closed.
   * @param tidy the last that is asked of it
   * @param tidyMs how long that is waited for
   */
  async close(tidy?: (service: Remote<S>) => Promise<unknown>, tidyMs = Infinity): Promise<void> {
    const last = tidy?.(this.remote);
    this.closing = true;
    await within(tidyMs, last);
    this.stopWatching();
    this.reason = this.closed.message;
    await this.worker.terminate();
  }
}
