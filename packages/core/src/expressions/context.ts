import type { Told } from '../language/wording.ts';
import type { Json, Value } from '../values/json.ts';
import type { TextStatistics } from '../words/relevance.ts';
import { kindOf, type Kind } from '../values/kind.ts';
import type { Identified } from '../language/places.ts';

/** An operation that may meet values that it has no meaning for, by the number of its node. */
export interface Site extends Identified {
  /** The operation, such as `@.bunks + 1`, and its operands. */
  readonly text: Told;
  readonly operands: readonly Told[];
}

/** How often one operand of a site was of a type that the operation cannot use. */
export interface Misfit {
  readonly site: Site;
  readonly operand: Told;
  readonly kind: Kind;
  readonly example: Json | undefined;
  count: number;
}

/** Counts the values that expressions could not use, with the first of each type as an example. */
export class Misfits {
  /** By site, then by the place of the operand, then by type. */
  private readonly bySite = new Map<Site, Map<Kind, Misfit>[]>();

  /** Notes the operand at `position`; gives *nothing*, which is what the operation then gives. */
  note(site: Site, position: number, value: Value): undefined {
    let bySite = this.bySite.get(site);
    if (bySite === undefined) this.bySite.set(site, (bySite = []));
    const byKind = (bySite[position] ??= new Map<Kind, Misfit>());
    const kind = kindOf(value);
    const misfit = byKind.get(kind);
    if (misfit === undefined) byKind.set(kind, { site, operand: site.operands[position] ?? site.text, kind, example: value, count: 1 });
    else misfit.count++;
    return undefined;
  }

  list(): Misfit[] {
    return [...this.bySite.values()].flatMap((bySite) => bySite.flatMap((byKind) => [...byKind.values()]));
  }
}

/** What the evaluators of one run share. */
export interface Context {
  readonly parameters: Readonly<Record<string, Json>>;
  /** The beginning of the run, RFC 3339 in UTC: what `now()` gives. */
  readonly now: string;
  readonly misfits: Misfits;
  /** Tests of membership in parameters, by their names: each is made once a run. */
  readonly members: Map<string, (value: Value) => boolean>;
  /** What relevance has to know of the collection, by what is asked of it; without it there is no relevance. */
  readonly statistics: Map<string, TextStatistics>;
}

export function makeContext(parameters: Readonly<Record<string, Json>>, now = new Date().toISOString()): Context {
  return { parameters, now, misfits: new Misfits(), members: new Map(), statistics: new Map() };
}
