import type { Json, JsonObject } from '../../values/json.ts';
import { makeContext } from '../../expressions/context.ts';
import { inOrder, runOn, runOnDocuments, type Reading } from './documentUnits.ts';
import type { Followed } from './followed.ts';
import { Groups } from './groups.ts';
import { RunningMeasures } from './runningMeasures.ts';
import { misfitsOf, runNow, someOf, type Ran } from './runStages.ts';
import { CannotFollow, type Touched, type Units, type UnitRows } from './units.ts';

/** Documents that are looked at anew for one change, at most: those of the groups that it touches. */
const mostMembers = 50_000;

/**
 * A group: those that a changed row was in, or is in now, are changed. Where measures go on from what is kept, by the row that has gone
 * and the one that has come; otherwise the group is made anew from its own documents.
 */
export class GroupUnits implements Units {
  private readonly groups: Groups;
  private readonly parts: Followed;
  private readonly reading: Reading;
  private readonly measures: RunningMeasures | undefined;
  /** The row of each group, before what follows the group. */
  private readonly rows: (JsonObject | undefined)[];

  /**
   * @param whole the rows that come to the group, of all documents
   * @param grouped the rows of the groups
   */
  constructor(parts: Followed, reading: Reading, whole: Ran, grouped: Ran) {
    this.parts = parts;
    this.reading = reading;
    this.groups = new Groups(parts.group!.stage);
    this.measures = RunningMeasures.of(parts.group!.stage);
    const ids = this.groups.take(whole.rows, whole.positions);
    if (this.groups.count !== grouped.rows.length) throw new CannotFollow('its groups are not those that were expected');
    this.rows = [...(grouped.rows as readonly JsonObject[])];
    whole.rows.forEach((row, at) => this.measures?.add(ids[at]!, row));
  }

  /** The rows of all groups. */
  all(): ReadonlyMap<number, readonly Json[]> {
    return this.finished(this.rows.keys());
  }

  update({ positions, before }: Touched): UnitRows {
    const { groups, measures } = this;
    const touched = inOrder(positions);
    const changed = new Map<number, number | undefined>();
    const meet = (id: number) => void (changed.has(id) || changed.set(id, groups.membersOf(id)[0]));
    for (const position of touched) groups.groupsAt(position).forEach(meet);
    const now = this.rowsTo(touched);
    for (const row of now.rows) meet(groups.idOf(row));
    const anew = new Set<number>();
    if (measures !== undefined) measures.context = makeContext({}, '');
    if (measures !== undefined && before !== undefined) {
      const there = touched.flatMap((position) => before.get(position) ?? []);
      const was = runOnDocuments(there, { ...this.parts, group: undefined }, this.reading);
      for (const row of was.rows) if (!measures.change(groups.idOf(row), row, false)) anew.add(groups.idOf(row));
    }
    for (const position of touched) groups.remove(position);
    const ids = groups.take(now.rows, now.positions);
    ids.forEach((id, at) => measures !== undefined && before !== undefined && !measures.change(id, now.rows[at]!, true) && anew.add(id));
    if (measures !== undefined) this.reading.misfits.expect({ misfits: misfitsOf(measures.context) });
    for (const id of changed.keys()) if (measures === undefined || before === undefined || this.rows[id] === undefined) anew.add(id);
    this.makeAnew(anew);
    for (const id of changed.keys()) {
      if (groups.membersOf(id).length === 0) this.rows[id] = undefined;
      else if (!anew.has(id)) this.rows[id] = measures!.rowOf(id, this.rows[id]!);
    }
    return {
      rows: this.finished(changed.keys()),
      // Groups stand in the order of their first documents.
      isInOrder: ![...changed].some(([id, first]) => groups.hasSeveral || groups.membersOf(id)[0] !== first),
    };
  }

  order(): number[] {
    return this.groups.inOrder(Array.from({ length: this.groups.count }, (_, id) => id));
  }

  /** Makes groups anew from their own documents. */
  private makeAnew(wanted: ReadonlySet<number>): void {
    const { groups, measures } = this;
    const members = this.membersOf(wanted);
    const grouped = runOn(members, this.parts, this.reading).rows;
    // Groups come in the order in which they first appear among these documents, which may be in others too.
    const mustLook = measures !== undefined || members.some((position) => groups.groupsAt(position).some((id) => !wanted.has(id)));
    const rows = mustLook ? this.rowsTo(members).rows : [];
    const idsOf = rows.map((row) => groups.idOf(row));
    const ids = mustLook ? [...new Set(idsOf)] : groups.inOrder(wanted);
    if (ids.length !== grouped.length) throw new CannotFollow('its groups are not those that were expected');
    ids.forEach((id, at) => wanted.has(id) && (this.rows[id] = grouped[at] as JsonObject));
    if (measures === undefined) return;
    for (const id of wanted) measures.reset(id);
    rows.forEach((row, at) => wanted.has(idsOf[at]!) && measures.add(idsOf[at]!, row));
  }

  /** What follows the group, done with the rows of some. */
  private finished(ids: Iterable<number>): Map<number, readonly Json[]> {
    const all = [...ids];
    const there = all.filter((id) => this.rows[id] !== undefined);
    const result = new Map<number, readonly Json[]>(all.map((id) => [id, []]));
    const grouped = there.map((id) => this.rows[id]!);
    const { rows, positions } = rowsAfter(this.parts, this.parts.afterGroup, grouped, this.reading);
    rows.forEach((row, at) => result.set(there[positions[at]!]!, [row]));
    return result;
  }

  private rowsTo(positions: readonly number[]): Ran {
    return runOn(positions, { ...this.parts, group: undefined }, this.reading);
  }

  private membersOf(wanted: ReadonlySet<number>): number[] {
    const members = new Set<number>();
    for (const id of wanted) for (const position of this.groups.membersOf(id)) members.add(position);
    if (members.size > mostMembers) throw new CannotFollow('the groups that it touches are large');
    return inOrder(members);
  }
}

const own = '#rows';

/** Stages that follow the source, on rows that are there. @returns with each row, which of those it comes from */
export function rowsAfter(
  { from }: Pick<Followed, 'from'>,
  stages: Followed['rowWise'],
  rows: readonly Json[],
  { misfits }: Reading,
): Pick<Ran, 'rows' | 'positions'> {
  if (stages.length === 0) return { rows, positions: rows.map((_, at) => at) };
  const there = someOf(own, rows);
  const ran = runNow([{ ...from, stage: { ...from.stage, source: own } }, ...stages], () => there);
  misfits.expect(ran);
  return ran;
}
