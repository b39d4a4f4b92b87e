import { sqlName } from '../words.ts';
import type { Dialect } from './dialect.ts';
import { emptyBlock, isSliced, written, type Block, type Item } from './block.ts';
import { freeName } from './lookAhead.ts';
import { Row, Unsaid, type Placed, type SqlNote } from './writer.ts';

/** A member of WITH. */
export interface Member {
  readonly name: string;
  readonly text: string;
  /** Its columns; undefined where it gives whole documents, as a table does. */
  readonly columns: readonly Item[] | undefined;
}

/** The SELECT that is being put together, and those before it, which it reads as members of WITH. */
export class Selects {
  readonly members: Member[];
  readonly notes: SqlNote[] = [];
  protected readonly dialect: Dialect;
  block!: Block;
  private alias = '';
  private readonly names: Set<string>;
  protected hasMore = false;
  /** Every side of a join is given whole; what takes the others out of the first has been said with that. */
  protected isWholeJoin = false;

  constructor(dialect: Dialect, members: Member[] = [], names = new Set<string>()) {
    this.dialect = dialect;
    this.members = members;
    this.names = names;
  }

  protected from(source: string, wanted: string, targets: ReadonlySet<string>): void {
    let alias = wanted;
    while (alias !== '' && targets.has(alias)) alias += '_1';
    this.alias = alias;
    const as = alias === '' || alias === source ? '' : ` AS ${sqlName(alias)}`;
    this.read(`${sqlName(source)}${as}`, this.columnsOf(source), () => [this.dialect.table([], alias, false)]);
  }

  protected columnsOf(source: string): readonly Item[] | undefined {
    return this.members.find(({ name }) => name === source)?.columns;
  }

  /** Begins a SELECT from a source: its columns where they are known. */
  private read(from: string, columns: readonly Item[] | undefined, whole: () => readonly Placed[]): void {
    const { alias } = this;
    const own = (target: string): string => (alias === '' ? sqlName(target) : `${sqlName(alias)}.${sqlName(target)}`);
    const known = columns?.map(({ target: [first], isWhole }): Item => ({ target: [first!], text: own(first!), isWhole }));
    this.block = emptyBlock(from, new Row(known?.map(({ target, text, isWhole }) => this.placed(target, text, isWhole)) ?? whole()));
    this.block.columns = known;
  }

  /** Makes a member of WITH of what there is, and goes on from it. */
  protected close(wanted: string): void {
    const { block } = this;
    this.refuseGathered();
    const items = this.outputs();
    const name = freeName(wanted, this.names);
    this.members.push({ name, text: this.text(), columns: items });
    const alias = this.hasMore ? name : '';
    this.alias = alias;
    const computed = this.dialect.keepsComputed ? block.computed : [];
    const own = (target: string): string => (alias === '' ? sqlName(target) : `${sqlName(alias)}.${sqlName(target)}`);
    this.read(sqlName(name), items, () => [
      this.dialect.table([], alias, false),
      ...computed.map(({ target, isWhole }) => this.placed(target, own(target[0]!), isWhole)),
    ]);
  }

  /** A column, which stands for what is missing too unless it was made of what is never missing. */
  protected placed(at: readonly string[], text: string, isWhole: boolean): Placed {
    const column = this.dialect.column(at, text);
    return isWhole ? column : { ...column, isColumn: () => false, wasMissing: true };
  }

  protected readonly text = (): string => written(this.block, this.itemsText(), this.dialect.noLimit);

  outputs(): readonly Item[] | undefined {
    const { items, groups, columns, computed, from } = this.block;
    const known = groups?.items ?? (from.length === 1 || this.dialect.nestsRows ? columns : undefined);
    return items ?? (known && [...known.filter(({ target }) => !computed.some((one) => one.target[0] === target[0])), ...computed]);
  }

  private itemsText(): string {
    const items = this.outputs();
    if (this.block.items === undefined) this.refuseGathered();
    if (items !== undefined) return this.dialect.items(items).join(', ');
    const { from, computed } = this.block;
    if (from.length > 1 && !this.isWholeJoin && !this.dialect.nestsRows)
      throw new Unsaid('the whole row with others inside it: end with a select');
    return this.dialect.everything(this.alias, this.isWholeJoin ? [] : computed);
  }

  /** Begins another SELECT where rows are no longer those of tables joined. */
  protected single(wanted: string): void {
    const { groups, items, ranks } = this.block;
    if (groups !== undefined || items !== undefined || ranks.size > 0 || isSliced(this.block)) this.close(wanted);
  }

  /** Something that a table beside the first one gives, which stands in the row from then on. */
  protected stand(place: Placed): void {
    // Asked for where the whole row goes out, and not before: not every side can be said whole.
    const text = (): string => place.json!([]);
    if (this.dialect.nestsRows) this.block.computed.push({ target: place.at, isWhole: false, get text() { return text(); } }); // prettier-ignore
    this.block.row = this.block.row.with(place);
  }

  protected readonly gathered = new Set<string>();

  /** An array of matches stays in the row unless it is left out, and no dialect can say it. */
  private refuseGathered(): void {
    if (this.gathered.size > 0) throw new Unsaid('the array that gather join makes: join and group instead, or omit it');
  }

  /** What cannot be said is told of its line. */
  protected saying<T>(line: number, work: () => T): T {
    try {
      return work();
    } catch (error) {
      if (error instanceof Unsaid) this.notes.push({ line, message: `SQL cannot say ${error.message} here.`, unsaid: true });
      throw error;
    }
  }
}
