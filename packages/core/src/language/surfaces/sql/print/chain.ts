import type { PlacedStage } from '../../../pipeline.ts';
import type { Measure, OrderKey, PipelineStage, RankStage, SelectItem, UnnestStage, JoinStage } from '../../../stages/stage.ts';
import { isChangeStep, isJoin, isRank } from '../../../stages/stage.ts';
import type { Expression } from '../../../tree.ts';
import { printExpression } from '../../notation/print.ts';
import { sqlName } from '../words.ts';
import type { Dialect } from './dialect.ts';
import { emptyBlock, isSliced, written, type Block, type Item } from './block.ts';
import { addsTable, freeName, isWholeRow, repeats, targetsIn, wholeRowIn } from './lookAhead.ts';
import { rankText } from './rankText.ts';
import { gathered, joinText } from './joinText.ts';
import { Row, Unsaid, type Placed, type SqlNote } from './writer.ts';

/** Writes stages as SQL: one SELECT while they follow its order, and members of WITH where they do not. */
export class Chain {
  readonly members: { name: string; text: string }[];
  readonly notes: SqlNote[] = [];
  private readonly dialect: Dialect;
  block!: Block;
  private alias = '';
  private readonly names: Set<string>;
  private isQuestion = false;
  private hasMore = false;
  /** Every side of a join is given whole; what takes the others out of the first has been said with that. */
  private isWholeJoin = false;

  constructor(dialect: Dialect, members: { name: string; text: string }[] = [], names = new Set<string>()) {
    this.dialect = dialect;
    this.members = members;
    this.names = names;
  }

  /** @throws Unsaid with the line told in `notes` */
  write(stages: readonly PlacedStage[]): string {
    const on = stages.filter(({ off, stage }) => !off && stage !== undefined);
    const targets = targetsIn(on);
    const whole = wholeRowIn(on);
    on.forEach(({ stage, line }, i) => {
      this.hasMore = on.slice(i).some(addsTable);
      try {
        if (stage!.kind === 'from') this.from(stage!.source, whole?.target[0] ?? (this.hasMore ? stage!.source : ''), targets);
        else if (!isChangeStep(stage!)) this.add(stage!, on[i + 1]?.stage);
      } catch (error) {
        if (error instanceof Unsaid) this.notes.push({ line, message: `SQL cannot say ${error.message} here.`, unsaid: true });
        throw error;
      }
    });
    return this.text();
  }

  private from(source: string, wanted: string, targets: ReadonlySet<string>): void {
    let alias = wanted;
    while (alias !== '' && targets.has(alias)) alias += '_1';
    this.alias = alias;
    this.isQuestion = this.members.some(({ name }) => name === source);
    const as = alias === '' || alias === source ? '' : ` AS ${sqlName(alias)}`;
    this.block = emptyBlock(`${sqlName(source)}${as}`, new Row([this.dialect.table([], alias, this.isQuestion)]));
  }

  /** Makes a member of WITH of what there is, and goes on from it. */
  private close(wanted: string): void {
    const { block } = this;
    const items = this.outputs();
    const name = freeName(wanted, this.names);
    this.members.push({ name, text: this.text() });
    const alias = this.hasMore ? name : '';
    this.alias = alias;
    const own = (target: string): string => (alias === '' ? sqlName(target) : `${sqlName(alias)}.${sqlName(target)}`);
    const places =
      items === undefined
        ? [
            this.dialect.table([], alias, false),
            ...(this.dialect.keepsComputed ? block.computed.map(({ target }) => this.dialect.column(target, own(target[0]!))) : []),
          ]
        : items.map(({ target }) => this.dialect.column([target[0]!], own(target[0]!)));
    this.block = emptyBlock(sqlName(name), new Row(places));
  }

  private readonly text = (): string => written(this.block, this.itemsText(), this.dialect.noLimit);

  outputs(): readonly Item[] | undefined {
    const { items, groups, computed } = this.block;
    return items ?? (groups && [...groups.items, ...computed]);
  }

  private itemsText(): string {
    const items = this.outputs();
    if (items !== undefined) return this.dialect.items(items).join(', ');
    if (this.block.from.length > 1 && !this.isWholeJoin) throw new Unsaid('the whole row with others inside it: end with a select');
    return this.dialect.everything(this.alias, this.block.computed);
  }

  private readonly value = (expression: Expression): string => this.dialect.write.value(expression, this.block.row);

  private add(stage: Exclude<PipelineStage, { kind: 'from' }>, next: PlacedStage['stage']): void {
    const { block } = this;
    if (isJoin(stage)) return this.join(stage);
    if (isRank(stage)) return this.rank(stage);
    switch (stage.kind) {
      case 'where':
        return this.where(stage.condition);
      case 'select':
        return this.select(stage.items, next);
      case 'compute':
        return stage.assignments.forEach(({ target, expression }) => this.compute(target, expression));
      case 'omit':
        return this.omit(stage.paths);
      case 'unnest':
        return this.unnest(stage);
      case 'group':
        return this.group(stage.keys, stage.measures);
      case 'groupAll':
        return this.group([], stage.measures);
      case 'order':
        if (isSliced(block)) this.close('first_rows');
        if (block.isDistinct && !this.dialect.ordersDistinct) this.close('different');
        // A number would be the place of a column, and one value for all orders nothing.
        this.block.order = stage.keys.filter(({ expression }) => expression.kind !== 'literal').map((key) => this.orderKey(key));
        return;
      case 'offset':
        if (isSliced(block)) this.close('first_rows');
        this.block.offset = this.dialect.count(stage.count, this.block.row);
        return;
      case 'limit':
        if (block.limit !== undefined) this.close('first_rows');
        this.block.limit = this.dialect.count(stage.count, this.block.row);
        return;
      default:
        throw new Unsaid('a sample at random');
    }
  }

  /** Begins another SELECT where rows are no longer those of tables joined. */
  private single(wanted: string): void {
    const { groups, items, hasRanks } = this.block;
    if (groups !== undefined || items !== undefined || hasRanks || isSliced(this.block)) this.close(wanted);
  }

  private where(condition: Expression): void {
    if (this.block.hasRanks || isSliced(this.block)) this.close(this.block.hasRanks ? 'ranked' : 'first_rows');
    if (this.block.items !== undefined) this.close('selected');
    const text = this.dialect.write.condition(condition, this.block.row);
    (this.block.groups === undefined ? this.block.where : this.block.having).push(text);
  }

  private select(items: readonly SelectItem[], next: PlacedStage['stage']): void {
    if (this.block.items !== undefined) this.close('selected');
    // Every side of a join whole, under its name: the first table without those that stand inside it.
    if (items.some(isWholeRow)) {
      if (next?.kind !== 'omit' || items.length !== this.block.from.length) throw new Unsaid('the whole row as a field');
      this.isWholeJoin = true;
      const { wholeRow } = this.dialect;
      if (wholeRow !== undefined) this.block.items = items.map(({ target }) => ({ target, text: wholeRow(target[0]!) }));
      return;
    }
    const made = items.map(({ target, expression }): Item => ({ target, text: this.value(expression) }));
    this.block.items = made;
    this.block.row = new Row(made.map(({ target }) => this.dialect.column([target[0]!], sqlName(target[0]!))));
  }

  private compute(target: readonly string[], expression: Expression): void {
    this.single(this.block.groups === undefined ? 'selected' : 'grouped');
    if (target.length > 1) throw new Unsaid('a computed field inside another');
    const text = this.value(expression);
    this.block.computed.push({ target, text });
    this.block.row = this.block.row.with(
      this.dialect.column(target, expression.kind === 'path' || expression.kind === 'literal' ? text : `(${text})`),
    );
  }

  private omit(paths: readonly Expression[]): void {
    const isAdded = paths.every((path) => this.gathered.has(printExpression(path).replace(/^@\.?/, '')));
    if (!this.isWholeJoin && !isAdded) throw new Unsaid('omit: what stays is not named');
  }
  private readonly gathered = new Set<string>();

  private unnest({ path, target, position, keepEmpty }: UnnestStage): void {
    this.single('rows_before');
    const [name, ...more] = target.names;
    if (more.length > 0 || name === undefined) throw new Unsaid('an element inside another field');
    const elements = { array: path, name, place: position?.names[0], keepEmpty };
    const { text, places } = this.dialect.elements(elements, this.block.row);
    this.block.from.push(text);
    for (const place of places) this.block.row = this.block.row.with(place);
  }

  private join(stage: JoinStage): void {
    this.single('rows_before');
    const [name, ...more] = stage.target.names;
    if (more.length > 0) throw new Unsaid('a partner inside another field');
    const place = this.dialect.table(
      [name!],
      name!,
      this.members.some((one) => one.name === stage.source),
    );
    const partner = { ...place, at: [] };
    const row = this.block.row.withPartner(name!, partner);
    const isAlways = printExpression(stage.condition) === '1 == 1';
    const conditions = stage.condition.kind === 'and' ? stage.condition.operands : [stage.condition];
    const on = isAlways ? '' : joinText(conditions, row, this.dialect.write);
    const source = `${sqlName(stage.source)} AS ${sqlName(name!)}`;
    if (stage.kind === 'gatherJoin') {
      this.block.row = this.block.row.with(gathered(name!, source, isAlways ? undefined : on));
      this.gathered.add(name!);
      return;
    }
    if (isAlways && stage.kind === 'join') this.block.from.push(`CROSS JOIN ${source}`);
    else this.block.from.push(`${stage.kind === 'leftJoin' ? 'LEFT JOIN' : 'JOIN'} ${source} ON ${isAlways ? 'TRUE' : on}`);
    this.block.row = this.block.row.with(place);
  }

  private group(keys: readonly SelectItem[], measures: readonly Measure[]): void {
    const { block } = this;
    const selected = block.items;
    if (measures.length === 0 && !isSliced(block) && repeats(keys, selected)) {
      block.isDistinct = true;
      block.order = [];
      return;
    }
    this.single(block.groups === undefined ? 'selected' : 'grouped');
    const { row, order } = this.block;
    if (keys.some(({ expression }) => expression.kind === 'literal')) throw new Unsaid('a group by one value for all');
    const made = keys.map(({ target, expression }): Item => ({ target, text: this.value(expression) }));
    const measured = measures.map((measure) => ({ target: measure.target, text: this.dialect.aggregate(measure, row, order), isCounted: measure.aggregate.startsWith('count') })); // prettier-ignore
    this.block.order = [];
    this.block.groups = { keys: made.map(({ text }) => text), items: [...made, ...measured] };
    this.block.row = new Row([
      ...made.map(({ target, text }) => this.dialect.column(target, text)),
      ...measured.map(({ target, text, isCounted }): Placed => ({
        ...this.dialect.column(target, text, isCounted),
        isColumn: () => isCounted,
      })),
    ]);
  }

  private rank(stage: RankStage): void {
    if (isSliced(this.block) || this.block.items !== undefined) this.close('selected');
    const { names } = stage.target;
    if (names.length > 1) throw new Unsaid('a rank inside another field');
    const text = this.dialect.rank(rankText(stage, this.value, (key) => this.orderKey(key)));
    this.block.computed.push({ target: names, text });
    this.block.hasRanks = true;
    this.block.row = this.block.row.with(this.dialect.column(names, text, true));
  }

  private orderKey({ expression, direction, nulls }: OrderKey): string {
    return this.dialect.orderKey(this.value(expression), direction, nulls);
  }
}
