import { compileValue } from '../../expressions/compile.ts';
import { makeContext } from '../../expressions/context.ts';
import { keyOfAll } from '../../values/keys.ts';
import type { Json } from '../../values/json.ts';
import type { GroupStage } from '../../language/stages/stage.ts';

/** Which documents' rows are in which group, in the order in which groups first appear. */
export class Groups {
  private readonly ids = new Map<string, number>();
  /** Positions of documents, ascending, by group. */
  private readonly members: number[][] = [];
  /** The groups of a document, in the order of its rows, by position. */
  private readonly groupsOf: (number | readonly number[] | undefined)[] = [];
  private readonly keys: readonly ((row: Json) => unknown)[];
  /** Whether some document has ever been in several groups. */
  hasSeveral = false;

  constructor({ keys }: GroupStage) {
    const context = makeContext({}, '');
    this.keys = keys.map(({ expression }) => {
      const value = compileValue(expression);
      return (row: Json) => value(row, context);
    });
  }

  get count(): number {
    return this.members.length;
  }

  /** Takes in the rows of documents that are in no group so far. @param positions those of the documents, side by side with their rows. @returns the group of each row */
  take(rows: readonly Json[], positions: readonly number[]): number[] {
    const ids = rows.map((row) => this.idOf(row));
    for (let at = 0; at < rows.length; at++) {
      const [id, position] = [ids[at]!, positions[at]!];
      const there = this.groupsOf[position];
      if (there === undefined) this.groupsOf[position] = id;
      else if (typeof there === 'number' ? there === id : there.includes(id)) continue;
      else {
        this.hasSeveral = true;
        this.groupsOf[position] = typeof there === 'number' ? [there, id] : [...there, id];
      }
      const members = this.members[id]!;
      if (members.length === 0 || members.at(-1)! < position) members.push(position);
      else members.splice(placeIn(members, position), 0, position);
    }
    return ids;
  }

  /** Takes a document out of its groups. */
  remove(position: number): void {
    for (const id of this.groupsAt(position)) this.members[id]!.splice(placeIn(this.members[id]!, position), 1);
    this.groupsOf[position] = undefined;
  }

  groupsAt(position: number): readonly number[] {
    const there = this.groupsOf[position];
    return there === undefined ? [] : typeof there === 'number' ? [there] : there;
  }

  membersOf(id: number): readonly number[] {
    return this.members[id]!;
  }

  /** The groups that are not empty among some, in the order in which they first appear. */
  inOrder(ids: Iterable<number>): number[] {
    const there = [...ids].filter((id) => this.members[id]!.length > 0);
    return there.sort((a, b) => {
      const first = this.members[a]![0]!;
      const difference = first - this.members[b]![0]!;
      if (difference !== 0 || !this.hasSeveral) return difference;
      const groups = this.groupsAt(first);
      return groups.indexOf(a) - groups.indexOf(b);
    });
  }

  /** The group of a row. */
  idOf(row: Json): number {
    const key = keyOfAll(this.keys.map((value) => value(row)) as never);
    let id = this.ids.get(key);
    if (id === undefined) {
      this.ids.set(key, (id = this.members.length));
      this.members.push([]);
    }
    return id;
  }
}

/** Where a position stands, or would stand, among ascending ones. */
function placeIn(members: readonly number[], position: number): number {
  let [low, high] = [0, members.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (members[middle]! < position) low = middle + 1;
    else high = middle;
  }
  return low;
}
