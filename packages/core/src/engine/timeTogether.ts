import { defaultGuards, type Guards } from '../execution/guards.ts';
import { milliseconds } from '../values/clock.ts';
import { refused, type Answer } from './requests.ts';

/** The guard of time for several runs of one question together, rather than for each of them. */
export class TimeTogether {
  private readonly work: string;
  private readonly given: Partial<Guards>;
  private readonly limit: number;
  private readonly started = milliseconds();

  /** @param work what takes that time, as it is called in what users are told, such as `Tracing` */
  constructor(work: string, given: Partial<Guards> = {}) {
    this.work = work;
    this.given = given;
    this.limit = given.timeMs ?? defaultGuards.timeMs;
  }

  /** The guards of the next run: what is left of the time. */
  get left(): Partial<Guards> {
    return { ...this.given, timeMs: Math.max(1, this.limit - (milliseconds() - this.started)) };
  }

  /** What a run has answered, with the whole time told where there was none left. */
  told<T>(answer: Answer<T>): Answer<T> {
    if (answer.ok || answer.problem.kind !== 'guard-time') return answer;
    const { problem } = answer;
    const reached = Math.round(milliseconds() - this.started);
    const message = `${this.work} was stopped at line ${problem.line} after ${reached} ms; the guard allows ${this.limit} ms for all its runs together.`;
    return refused({ ...problem, message, reached, limit: this.limit });
  }
}
