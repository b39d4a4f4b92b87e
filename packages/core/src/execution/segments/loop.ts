import type { Atom, Emitter, Variables } from '../../expressions/emitter.ts';
import { newEmitter } from '../../expressions/emit.ts';
import type { Slots } from '../../expressions/slots.ts';

const noPartners: ReadonlyMap<string, Atom> = new Map();

/** A loop while it is being written: the emitter of its function, what it counts, and what it is handed when it runs. */
export class Loop {
  readonly emitter: Emitter = newEmitter();
  /** What is counted, in the order of the list that the function adds to. */
  private readonly counters: Atom[] = [];
  /** Inner loops of a row, by which it is told how much work a row is. */
  readonly work: Atom;

  constructor() {
    this.work = this.counter();
  }

  /** A number that begins at 0 with each call, and is added to the run's when it ends. */
  counter(): Atom {
    const name = this.emitter.lasting('0');
    this.counters.push(name);
    return name;
  }

  /** The place of a counter in the list. */
  placeOf(counter: Atom): number {
    return this.counters.indexOf(counter);
  }

  get counterCount(): number {
    return this.counters.length;
  }

  /** Says that something is done for the so-maniest time inside one row: guards and cancel are looked at now and then. */
  worked(): void {
    this.emitter.line(`if ((++${this.work} & ${lookedAtEach - 1}) === 0) look();`);
  }

  /** The same of something that is done at once, and as much work as so many. */
  workedAtOnce(many: Atom): void {
    this.emitter.line(`if (${this.work} % ${lookedAtEach} + ${many} >= ${lookedAtEach}) look();`);
    this.emitter.line(`${this.work} += ${many};`);
  }

  /** Adds what was counted to the run's. */
  settle(): void {
    this.counters.forEach((counter, i) => this.emitter.line(`counts[${i}] += ${counter};`));
  }
}

/** A power of two. */
const lookedAtEach = 8_192;

/** What expressions over a row in slots begin at. */
export function variablesOf(row: Slots, partners: ReadonlyMap<string, Atom> = noPartners): Variables {
  return { current: row, whole: row, partners };
}
