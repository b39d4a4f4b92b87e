import { Worker } from 'node:worker_threads';
import * as Comlink from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { ServerProblem } from '../problem.ts';

/** A service in a thread of its own. Calls that are under way when the thread ends are told so. */
export class Thread<S> {
  private readonly url: URL;
  private readonly heapMegabytes: number;
  private worker!: Worker;
  private remote!: Comlink.Remote<S>;
  /** Calls that are under way: how each is told that there will be no answer. Nothing is kept of those that have one. */
  private readonly underWay = new Set<(problem: ServerProblem) => void>();
  /** Called whenever the thread has begun anew, before it is used. */
  private readonly begin: (service: Comlink.Remote<S>) => Promise<void>;
  private ready!: Promise<void>;
  private closing = false;

  constructor(url: URL, heapMegabytes: number, begin: (service: Comlink.Remote<S>) => Promise<void>) {
    this.url = url;
    this.heapMegabytes = heapMegabytes;
    this.begin = begin;
    this.start();
  }

  private start(): void {
    const worker = new Worker(this.url, { resourceLimits: { maxOldGenerationSizeMb: this.heapMegabytes, maxYoungGenerationSizeMb: 128 } });
    this.worker = worker;
    this.remote = Comlink.wrap<S>(nodeEndpoint(worker));
    let reason = 'The engine was ended, and begins anew.';
    worker.on('error', (error: Error & { code?: string }) => {
      reason =
        error.code === 'ERR_WORKER_OUT_OF_MEMORY'
          ? 'The engine ran out of memory and begins anew.'
          : `The engine failed and begins anew: ${error.message}`;
    });
    worker.on('exit', () => {
      const waiting = [...this.underWay];
      this.underWay.clear();
      if (!this.closing && this.worker === worker) this.start();
      for (const end of waiting) end(new ServerProblem('/restarted', reason));
    });
    this.ready = this.answered(this.begin(this.remote));
    // Nobody may be waiting when the thread ends.
    this.ready.catch(() => undefined);
  }

  /** Waits until the service can be used. */
  async started(): Promise<void> {
    await this.ready;
  }

  /** Calls the service. */
  async call<R>(work: (service: Comlink.Remote<S>) => R): Promise<Awaited<R>> {
    const { ready, remote } = this;
    await ready;
    return this.answered(Promise.resolve(work(remote)));
  }

  /** The answer of the thread, or that it has ended before. */
  private answered<R>(answer: Promise<R>): Promise<R> {
    return new Promise<R>((resolve, reject) => {
      this.underWay.add(reject);
      answer.then(resolve, reject).finally(() => this.underWay.delete(reject));
    });
  }

  /** Ends the thread, whatever it is doing, and begins it anew. */
  async restart(): Promise<void> {
    await this.worker.terminate();
  }

  async close(): Promise<void> {
    this.closing = true;
    await this.worker.terminate();
  }
}
