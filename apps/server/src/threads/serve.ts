import { AsyncLocalStorage } from 'node:async_hooks';
import { parentPort, workerData } from 'node:worker_threads';
import { beats, errorOf, failureOf, isAskable, messagesSent, type FromService, type Once, type ToService } from './messages.ts';

/** How often a thread shows that it gets to its messages. */
const beatMs = 200;

const context = new AsyncLocalStorage<Once | undefined>();

/** What makes the write of the call that is being answered one that is made once; undefined where it may be made each time. */
export const currentOnce = (): Once | undefined => context.getStore();

let sent: Int32Array | undefined;
let received = 0;

/** Whether messages lie there that have not been looked at: work in slices had better end its own. */
export const isAwaited = (): boolean => sent !== undefined && Atomics.load(sent, messagesSent) !== received;

/** Answers calls from the main thread with the methods of a service. Nothing is kept of a call once it has been answered. */
export function serve(service: object): void {
  if (parentPort === null) throw new Error('a service runs in a thread of its own');
  const port = parentPort;
  const shared = new Int32Array((workerData as { shared: SharedArrayBuffer }).shared);
  sent = shared;
  // The first says that the code has been read.
  Atomics.add(shared, beats, 1);
  setInterval(() => Atomics.add(shared, beats, 1), beatMs);

  const post = (message: FromService): void => port.postMessage(message);
  const asked = new Map<number, { resolve: (value: unknown) => void; reject: (error: Error) => void }>();
  let lastAsk = 0;
  const askBack = (id: number, place: number, args: readonly unknown[]) =>
    new Promise((resolve, reject) => {
      const ask = ++lastAsk;
      asked.set(ask, { resolve, reject });
      post({ kind: 'ask', id, ask, place, args });
    });

  async function answer({ id, method, args, once }: ToService & { kind: 'call' }): Promise<void> {
    try {
      const work = (service as Record<string, unknown>)[method];
      if (typeof work !== 'function') throw new Error(`there is no call ${method}`);
      const given = args.map((arg, place) => (isAskable(arg) ? (...asks: unknown[]) => askBack(id, place, asks) : arg));
      const value: unknown = await context.run(once, () => (work as (...given: unknown[]) => unknown).apply(service, given));
      post({ kind: 'done', id, value });
    } catch (error) {
      post({ kind: 'failed', id, failure: failureOf(error) });
    }
  }

  port.on('message', (message: ToService) => {
    received = (received + 1) | 0;
    if (message.kind === 'call') {
      void answer(message);
      return;
    }
    const waiting = asked.get(message.ask);
    asked.delete(message.ask);
    if ('failure' in message) waiting?.reject(errorOf(message.failure));
    else waiting?.resolve(message.value);
  });
}
