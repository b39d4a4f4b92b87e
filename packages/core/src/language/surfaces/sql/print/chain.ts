import type { PlacedStage } from '../../../pipeline.ts';
import type { Measure, OrderKey, PipelineStage, RankStage, SelectItem, UnnestStage, JoinStage } from '../../../stages/stage.ts';
import { isChangeStep, isJoin, isRank } from '../../../stages/stage.ts';
import type { Expression } from '../../../tree.ts';
import { printExpression } from '../../notation/print.ts';
import { sqlName } from '../words.ts';
import { isSliced, type Item } from './block.ts';
import { addsTable, isWholeRow, readsAny, repeats, targetsIn, wholeRowIn } from './lookAhead.ts';
import { isWhole } from './known.ts';
import { rankText } from './rankText.ts';
import { gathered, joinText } from './joinText.ts';
import { Selects } from './selects.ts';
import { Row, Unsaid, type Placed } from './writer.ts';

/** Writes stages as SQL: one SELECT while they follow its order, and members of WITH where they do not. */
export class Chain extends Selects {
  /** @throws Unsaid with the line told in `notes` */
  write(stages: readonly PlacedStage[]): string {
    const on = stages.filter(({ off, stage }) => !off && stage !== undefined);
    const targets = targetsIn(on);
    const whole = wholeRowIn(on);
    on.forEach(({ stage, line }, i) => {
      this.hasMore = on.slice(i).some(addsTable);
      this.saying(line, () => {
        if (stage!.kind === 'from') this.from(stage!.source, whole?.target[0] ?? (this.hasMore ? stage!.source : ''), targets);
        else if (!isChangeStep(stage!)) this.add(stage!, on[i + 1]?.stage);
      });
    });
    return this.saying(on[on.length - 1]?.line ?? 1, this.text);
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
        if (this.block.items !== undefined && !this.dialect.ordersSelected) this.close(this.block.isDistinct ? 'different' : 'selected');
        // A number would be the place of a column, and one value for all orders nothing. Ties stay in the order before.
        this.block.order = [...new Set([...stage.keys.filter(({ expression }) => expression.kind !== 'literal').map((key) => this.orderKey(key)), ...this.block.order])]; // prettier-ignore
        return;
      case 'offset':
        if (isSliced(block)) this.close('first_rows');
        this.block.offset = this.dialect.count(stage.count, this.block.row);
        return;
      case 'limit':
        if (block.limit !== undefined) this.close('first_rows');
        this.block.limit = this.dialect.count(stage.count, this.block.row);
        return;
      case 'best':
        throw new Unsaid('best: another engine scores in its own way');
      default:
        throw new Unsaid('a sample at random');
    }
  }

  private where(condition: Expression): void {
    if (this.block.ranks.size > 0 || isSliced(this.block)) this.close(this.block.ranks.size > 0 ? 'ranked' : 'first_rows');
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
      if (wholeRow !== undefined) this.block.items = items.map(({ target }) => ({ target, text: wholeRow(target[0]!), isWhole: true }));
      return;
    }
    const made = items.map((item) => this.made(item));
    this.gathered.clear();
    this.block.items = made;
    this.block.row = new Row(
      made.map(({ target, isWhole }) => this.placed([target[0]!], sqlName(target[0]!), isWhole || target.length > 1)),
    );
  }

  private made({ target, expression }: SelectItem): Item {
    return { target, text: this.value(expression), isWhole: isWhole(expression, this.block.row) };
  }

  private compute(target: readonly string[], expression: Expression): void {
    this.single(this.block.groups === undefined ? 'selected' : 'grouped');
    if (target.length > 1) throw new Unsaid('a computed field inside another');
    const text = this.value(expression);
    const item = { target, text, isWhole: isWhole(expression, this.block.row) };
    this.block.computed.push(item);
    const isPlain = expression.kind === 'path' || expression.kind === 'literal';
    this.block.row = this.block.row.with(this.placed(target, isPlain ? text : `(${text})`, item.isWhole));
  }

  private omit(paths: readonly Expression[]): void {
    const isAdded = paths.every((path) => this.gathered.has(nameOf(path)));
    if (!this.isWholeJoin && !isAdded) throw new Unsaid('omit: what stays is not named');
    if (isAdded) for (const path of paths) this.gathered.delete(nameOf(path));
  }
  private unnest({ path, target, position, keepEmpty }: UnnestStage): void {
    this.single('rows_before');
    const [name, ...more] = target.names;
    if (more.length > 0 || name === undefined) throw new Unsaid('an element inside another field');
    const elements = { array: path, name, place: position?.names[0], keepEmpty };
    const { text, places } = this.dialect.elements(elements, this.block.row);
    this.block.from.push(text);
    for (const place of places) this.stand(keepEmpty ? { ...place, isColumn: () => false } : place);
  }

  private join(stage: JoinStage): void {
    this.single('rows_before');
    const [name, ...more] = stage.target.names;
    if (more.length > 0) throw new Unsaid('a partner inside another field');
    const place = this.dialect.table([name!], name!, this.columnsOf(stage.source) !== undefined);
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
    this.stand(place);
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
    // What was computed is written where a key or a measure reads it; no column of it stays.
    this.block.computed = [];
    if (keys.some(({ expression }) => expression.kind === 'literal')) throw new Unsaid('a group by one value for all');
    const made = keys.map((key) => this.made(key));
    const measured = measures.map((measure) => ({ target: measure.target, text: this.dialect.aggregate(measure, row, order), isWhole: measure.aggregate.startsWith('count') })); // prettier-ignore
    this.gathered.clear();
    this.block.order = [];
    this.block.groups = { keys: made.map(({ text }) => text), items: [...made, ...measured] };
    this.block.row = new Row([
      ...made.map(({ target, text, isWhole }) => this.placed(target, text, isWhole)),
      ...measured.map(({ target, text, isWhole }): Placed => ({ ...this.dialect.column(target, text, isWhole), isColumn: () => isWhole })),
    ]);
  }

  private rank(stage: RankStage): void {
    if (isSliced(this.block) || this.block.items !== undefined) this.close('selected');
    // A window cannot look at another one of the same SELECT.
    if ([...stage.partition, ...stage.keys.map(({ expression }) => expression)].some((one) => readsAny(one, this.block.ranks)))
      this.close('ranked');
    const { names } = stage.target;
    if (names.length > 1) throw new Unsaid('a rank inside another field');
    const text = this.dialect.rank(rankText(stage, this.value, (key) => this.orderKey(key)));
    this.block.computed.push({ target: names, text, isWhole: true });
    this.block.ranks.add(names[0]!);
    this.block.row = this.block.row.with(this.dialect.column(names, text, true));
  }

  private orderKey({ expression, direction, nulls }: OrderKey): string {
    return this.dialect.orderKey(this.value(expression), direction, nulls);
  }
}

const nameOf = (path: Expression): string => printExpression(path).replace(/^@\.?/, '');
