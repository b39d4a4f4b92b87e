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
  private ended!: Promise<never>;
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
    this.ended = new Promise<never>((_, reject) => {
      let reason = 'The engine was ended, and begins anew.';
      worker.on('error', (error: Error & { code?: string }) => {
        reason =
          error.code === 'ERR_WORKER_OUT_OF_MEMORY'
            ? 'The engine ran out of memory and begins anew.'
            : `The engine failed and begins anew: ${error.message}`;
      });
      worker.on('exit', () => {
        if (!this.closing && this.worker === worker) this.start();
        reject(new ServerProblem('/restarted', reason));
      });
    });
    // Nobody may be waiting when the thread ends.
    this.ended.catch(() => undefined);
    this.ready = this.begin(this.remote);
    this.ready.catch(() => undefined);
  }

  /** Waits until the service can be used. */
  async started(): Promise<void> {
    await this.ready;
  }

  /** Calls the service. */
  async call<R>(work: (service: Comlink.Remote<S>) => R): Promise<Awaited<R>> {
    const { ready, remote, ended } = this;
    await Promise.race([ready, ended]);
    return Promise.race([work(remote), ended]);
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
