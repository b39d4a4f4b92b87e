import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';

setFlagsFromString('--expose-gc');
const gc = runInNewContext('gc');

/** Bytes that this thread holds after everything that can go has gone. */
export function collected() {
  gc();
  gc();
  const { heapUsed, external } = process.memoryUsage();
  return heapUsed + external;
}

/** A service that can be asked for that. */
export function weighed(service) {
  return new Proxy(service, {
    get: (target, method) => {
      if (method === 'collected') return collected;
      const work = target[method];
      return typeof work === 'function' ? work.bind(target) : work;
    },
  });
}
