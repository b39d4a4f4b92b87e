import type { PatternTree } from './patternTree.ts';

/**
 * The states of a pattern's automaton (Thompson 1968): each takes one character and goes on, goes on in one or two ways without
 * one, or is an end.
 */
export class States {
  /** What a state takes, as the place of its test; negative where it takes nothing. */
  readonly takes: number[] = [];
  /** Where it goes on; negative where it does not. */
  readonly next: number[] = [];
  readonly other: number[] = [];
  readonly tests: RegExp[] = [];
  private readonly testOf = new Map<string, number>();

  /** @throws TooManyStates */
  private add(takes: number, next: number, other = -1): number {
    if (this.takes.length >= mostStates) throw new TooManyStates();
    this.next.push(next);
    this.other.push(other);
    return this.takes.push(takes) - 1;
  }

  /** An end: nothing comes after it. */
  end(): number {
    return this.add(-1, -1);
  }

  /** The states that match a pattern and go on to `next`; @returns the first of them. */
  before(next: number, tree: PatternTree): number {
    switch (tree.kind) {
      case 'one':
        return this.add(this.test(tree.source), next);
      case 'sequence':
        return tree.parts.reduceRight((to, part) => this.before(to, part), next);
      case 'choice':
        return tree.branches.map((branch) => this.before(next, branch)).reduce((a, b) => this.add(-1, a, b));
      case 'repeat':
        return this.repeated(next, tree);
    }
  }

  private repeated(next: number, { part, least, most }: Extract<PatternTree, { kind: 'repeat' }>): number {
    let to = next;
    if (most === Infinity) {
      const again = this.add(-1, -1, next);
      this.next[again] = this.before(again, part);
      to = again;
    } else {
      for (let i = least; i < most; i++) to = this.add(-1, this.before(to, part), next);
    }
    for (let i = 0; i < least; i++) to = this.before(to, part);
    return to;
  }

  private test(source: string): number {
    let place = this.testOf.get(source);
    if (place === undefined) {
      place =
        this.tests.push(
          new RegExp(`^${source.length > 2 || source.startsWith('\\') || source.startsWith('[') ? source : escaped(source)}$`, 'u'),
        ) - 1;
      this.testOf.set(source, place);
    }
    return place;
  }
}

const mostStates = 8_000;
/** A pattern that would take too much room. */
export class TooManyStates extends Error {}

function escaped(character: string): string {
  return character === '/' ? '\\/' : character;
}
