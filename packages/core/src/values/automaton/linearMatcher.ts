import type { ReadPattern } from '../iRegexp.ts';
import { patternBranches } from './patternTree.ts';
import { States } from './states.ts';

/** Sets of states that are kept; with more, all are let go and found again as they come. */
const mostSets = 2_000;
/** Characters below have a place in a table. */
const inTable = 128;
/** Transitions by other characters that are kept in all. */
const mostOthers = 20_000;
const unknown = -1;
/** Sets that need no further look: the text fits, whatever comes; it cannot fit any more. */
const fits = -2;
const lost = -3;

/** A set of states in which the automaton may be at once. */
interface StateSet {
  readonly states: readonly number[];
  /** Whether it has come to an end, if this is the end of the text. */
  readonly endsLast: boolean;
  readonly others: Map<number, number>;
}

/**
 * Matches in one pass over the text, whatever the pattern: the sets of states in which its automaton may be are found as texts lead to
 * them, and each is looked up from then on (Thompson 1968; a deterministic automaton that is built lazily, as in Aho, Lam, Sethi and
 * Ullman, 3.7). A character costs a look into a table.
 */
export class LinearMatcher {
  private readonly automaton = new States();
  /** Where it begins: at the beginning of the text, and at each place of it. */
  private readonly first: readonly number[];
  private readonly anywhere: readonly number[];
  private readonly end: number;
  private readonly lastEnd: number;
  private sets: StateSet[] = [];
  private numbers = new Map<string, number>();
  private table = new Int32Array(0);
  private others = 0;
  /** The set before any character. */
  private begun = unknown;

  /**
   * @param extent the whole text, or any part of it; anchors hold the first alternative to the beginning and the last to the end
   * @throws TooManyStates
   */
  constructor({ source, anchored }: Pick<ReadPattern, 'source' | 'anchored'>, extent: 'whole' | 'part') {
    this.end = this.automaton.end();
    this.lastEnd = this.automaton.end();
    const branches = patternBranches(source);
    const starts = branches.map((branch, i) => {
      const isLast = extent === 'whole' || (anchored.end && i === branches.length - 1);
      return this.automaton.before(isLast ? this.lastEnd : this.end, branch);
    });
    this.first = starts;
    this.anywhere = extent === 'whole' ? [] : starts.filter((_, i) => i > 0 || !anchored.start);
    this.begin();
  }

  private begin(): void {
    this.sets = [];
    this.numbers = new Map();
    this.table = new Int32Array(16 * inTable).fill(unknown);
    this.others = 0;
    this.begun = this.numberOf(this.first);
  }

  test(text: string): boolean {
    let set = this.begun;
    let table = this.table;
    for (let i = 0; i < text.length && set >= 0; i++) {
      const unit = text.charCodeAt(i);
      if (unit < inTable) {
        const next = table[set * inTable + unit]!;
        if (next !== unknown) {
          set = next;
          continue;
        }
        set = this.found(set, unit);
      } else {
        const point = text.codePointAt(i)!;
        if (point > 0xffff) i++;
        set = this.sets[set]!.others.get(point) ?? this.found(set, point);
      }
      table = this.table;
    }
    return set === fits || (set >= 0 && this.sets[set]!.endsLast);
  }

  /** The set after a character, which is kept. */
  private found(from: number, point: number): number {
    const { states, others } = this.sets[from]!;
    const { takes, next, tests } = this.automaton;
    const character = String.fromCodePoint(point);
    const reached: number[] = [];
    for (const state of states) {
      const test = takes[state]!;
      if (test >= 0 && tests[test]!.test(character)) reached.push(next[state]!);
    }
    const wanted = [...reached, ...this.anywhere];
    if (this.sets.length >= mostSets || this.others >= mostOthers) {
      // What follows is found from here on as if nothing had been before.
      this.begin();
      return this.numberOf(wanted);
    }
    const to = this.numberOf(wanted);
    if (point < inTable) this.table[from * inTable + point] = to;
    else {
      others.set(point, to);
      this.others++;
    }
    return to;
  }

  /** The number of the set that states lead to without a character. */
  private numberOf(from: readonly number[]): number {
    const { takes, next, other } = this.automaton;
    const seen = new Set<number>();
    const left = [...from];
    for (let state = left.pop(); state !== undefined; state = left.pop()) {
      if (state < 0 || seen.has(state)) continue;
      seen.add(state);
      if (takes[state]! < 0) left.push(next[state]!, other[state]!);
    }
    const states = [...seen].filter((state) => takes[state]! >= 0 || state === this.lastEnd).sort((a, b) => a - b);
    if (seen.has(this.end)) return fits;
    if (states.length === 0) return lost;
    const key = states.join();
    let number = this.numbers.get(key);
    if (number === undefined) {
      number = this.sets.push({ states, endsLast: seen.has(this.lastEnd), others: new Map() }) - 1;
      this.numbers.set(key, number);
      this.makeRoom();
    }
    return number;
  }

  private makeRoom(): void {
    if (this.sets.length * inTable <= this.table.length) return;
    const larger = new Int32Array(this.table.length * 2).fill(unknown);
    larger.set(this.table);
    this.table = larger;
  }
}
