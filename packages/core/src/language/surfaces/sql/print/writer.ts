import type { Expression } from '../../../tree.ts';
import type { Step } from '../tree.ts';

/** What cannot be said in a dialect. */
export class Unsaid extends Error {}

/** Something that another engine would answer otherwise, or that cannot be said there; on a 1-based line of the pipeline. */
export interface SqlNote {
  readonly line: number;
  readonly message: string;
  /** Whether it cannot be said at all. */
  readonly unsaid: boolean;
}

/** Where a part of a row is, as a dialect writes it. */
export interface Placed {
  /** Field names from the top of the row. */
  readonly at: readonly string[];
  /** The text of what is there, given the steps that go on inside it. */
  readonly text: (steps: readonly Step[]) => string;
  /** Whether it may be null and is never missing, as a column of a question is. */
  readonly isColumn: (steps: readonly Step[]) => boolean;
  /** What says of which type it is, and the same as JSON, where a dialect tells them apart. */
  readonly kind?: (steps: readonly Step[]) => string;
  readonly json?: (steps: readonly Step[]) => string;
  /** Whether it is never null either, as a count is. */
  readonly isCounted?: boolean;
  /** Whether it is a column in which NULL stands for what was missing. */
  readonly wasMissing?: boolean;
  /** The column of an element's place, from 1, where this is that place from 0. */
  readonly ordinal?: string;
  /** What says whether there is a first match, of what a gather join makes. */
  readonly existence?: string;
}

/** Where a row's fields are. The longest place that a path begins with is meant. */
export class Row {
  private readonly places: readonly Placed[];
  /** How the partner of the join that is being written is called. */
  private readonly partners: ReadonlyMap<string, Placed>;

  constructor(places: readonly Placed[], partners: ReadonlyMap<string, Placed> = new Map()) {
    this.places = places;
    this.partners = partners;
  }
  with(place: Placed): Row {
    return new Row([...this.places.filter(({ at }) => at.join('\n') !== place.at.join('\n')), place], this.partners);
  }
  withPartner(name: string, place: Placed): Row {
    return new Row(this.places, new Map([...this.partners, [name, place]]));
  }

  /** @throws Unsaid for a path that may give several values */
  find(path: Expression & { readonly kind: 'path' }): { readonly place: Placed; readonly steps: readonly Step[] } {
    const steps = path.segments.map(({ descendant, selectors }): Step => {
      const [selector] = selectors;
      if (!descendant && selectors.length === 1 && selector.kind === 'name') return selector.name;
      if (!descendant && selectors.length === 1 && selector.kind === 'index' && selector.index >= 0) return selector.index;
      throw new Unsaid('a path that may give several values');
    });
    if (path.root.kind === 'partner') return { place: this.partners.get(path.root.name)!, steps };
    const fitting = this.places.filter(({ at }) => at.every((name, i) => steps[i] === name));
    const place = fitting.sort((a, b) => b.at.length - a.at.length)[0];
    if (place === undefined) throw new Unsaid(`the field ${steps.join('.')}, which no line gives`);
    return { place, steps: steps.slice(place.at.length) };
  }
}

/** How one dialect writes expressions. */
export interface ExpressionWriter {
  readonly value: (expression: Expression, row: Row) => string;
  readonly condition: (expression: Expression, row: Row) => string;
}

export const noOrder = 'Rows come in no stated order: end with order by to have one.';
export const oneNull = 'What is null and what is missing is NULL there: where both are among what is grouped or compared, they are one.';
export const quoted = (text: string): string => `'${text.replace(/'/g, "''")}'`;
