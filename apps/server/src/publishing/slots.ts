import { ServerProblem } from '../problem.ts';

/** How many computations may run at once for a publication; the next waits a second. */
export class Slots {
  private running = 0;
  private readonly waiting: (() => void)[] = [];

  /** @throws ServerProblem where none has become free in time */
  async within<T>(atOnce: number, work: () => Promise<T>): Promise<T> {
    if (this.running >= atOnce) await this.turn(atOnce);
    else this.running++;
    try {
      return await work();
    } finally {
      const next = this.waiting.shift();
      // The place goes over to whoever waits.
      if (next !== undefined) next();
      else this.running--;
    }
  }

  private turn(atOnce: number): Promise<void> {
    return new Promise((resolve, reject) => {
      const begin = (): void => {
        clearTimeout(timer);
        resolve();
      };
      const timer = setTimeout(() => {
        this.waiting.splice(this.waiting.indexOf(begin), 1);
        reject(
          new ServerProblem(
            '/busy',
            `${atOnce} ${atOnce === 1 ? 'computation is' : 'computations are'} under way for this already. Ask again in a moment.`,
            { retryAfter: 1 },
          ),
        );
      }, waitMs);
      this.waiting.push(begin);
    });
  }
}

const waitMs = 1_000;
