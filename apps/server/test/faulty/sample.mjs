import { serve, currentOnce } from '../../dist/threads/serve.js';
import { ServerProblem } from '../../dist/problem.js';

/** A service for the tests of calls between threads. */
serve({
  add: (a, b) => a + b,
  bytes: (given) => given.length,
  once: () => currentOnce()?.key ?? null,
  fail: () => {
    throw Object.assign(new TypeError('no'), { code: 'E_NO' });
  },
  refuse: () => {
    throw new ServerProblem('/unique', 'There is one already.', { identity: 'a' });
  },
  askBack: async (ask, n) => (await ask(n)) * 2,
  keep: (ask) => void (globalThis.kept = ask),
  askKept: () => globalThis.kept(1),
  unreadable: () => () => undefined,
  nested: (levels) => JSON.parse('['.repeat(levels) + ']'.repeat(levels)),
  later: (ms, failure) =>
    new Promise((resolve, reject) => setTimeout(() => (failure === undefined ? resolve('done') : reject(new Error(failure))), ms)),
  stall: () => new Promise(() => undefined),
  block: () => {
    for (;;);
  },
  // Looks at its flag, and takes its time.
  patient: (flag) =>
    new Promise((resolve) => {
      const view = new Int32Array(flag);
      const timer = setInterval(() => {
        if (Atomics.load(view, 0) === 0) return;
        clearInterval(timer);
        setTimeout(() => resolve('cancelled'), 700);
      }, 10);
    }),
  exit: () => process.exit(3),
});
