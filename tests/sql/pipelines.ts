import type { Random } from '../torture/random.ts';
import { tables, type TestTable } from './data.ts';

type Type = 'number' | 'text';
interface Field {
  readonly path: string;
  readonly type: Type;
}

/** Makes pipelines in the notation, of every stage and of most functions, that an engine with SQL may be asked instead. */
export class Pipelines {
  private readonly random: Random;
  private fields: Field[] = [];
  private arrays: { path: string; elements: readonly Field[] }[] = [];

  /** `hasKeys`: whether rows are grouped and ranked by what may be null or missing, which are one for SQL. */
  constructor(random: Random, hasKeys: boolean) {
    this.random = random;
    this.hasKeys = hasKeys;
  }
  private readonly hasKeys: boolean;

  /** Whether each document is one row at most, so that its identity orders rows wholly. */
  private isSingle = true;

  pipeline(): string {
    this.isSingle = true;
    const { random } = this;
    const table = random.pick(tables);
    this.fields = fieldsOf(table, '@');
    this.arrays = table.arrays.map(({ path, element }) => ({ path: `@.${path.join('.')}`, elements: element.map(({ path: inner, type }) => ({ path: inner[0] === '' ? '@' : `@.${inner.join('.')}`, type: plain(type) })) })); // prettier-ignore
    const own = random.chance(0.2) ? random.list(1, 2, () => this.stage()).flat() : undefined;
    const lines = random.list(own === undefined ? 1 : 0, 3, () => this.stage()).flat();
    if (own === undefined) return [`from ${table.name}`, ...lines].join('\n');
    return [`with part`, ...[`from ${table.name}`, ...own].map((line) => `  ${line}`), 'from part', ...lines].join('\n');
  }

  private stage(): string[] {
    const { random } = this;
    return random.weighed<string[]>([
      [8, () => [`where ${this.condition(2)}`]],
      [3, () => [`order by ${this.order()}, @.id`, ...(this.isSingle && random.chance(0.6) ? [`limit ${random.below(9)}`] : []), ...(this.isSingle && random.chance(0.3) ? [`offset ${random.below(3)}`] : [])]],
      [this.hasKeys ? 3 : 0, () => this.compute()],
      [this.hasKeys ? 3 : 0, () => this.select()],
      [3, () => this.join()],
      [3, () => this.unnest()],
      [this.hasKeys ? 4 : 0, () => this.group()],
      [this.hasKeys ? 2 : 0, () => this.rank()],
      [1, () => [`omit ${random.pick(this.fields).path}`]],
    ]);
  } // prettier-ignore

  private compute(): string[] {
    const type = this.type();
    const name = this.free('v');
    const line = `compute ${name} = ${this.value(type, 2)}`;
    this.fields.push({ path: `@.${name}`, type });
    return [line];
  }

  private select(): string[] {
    const made = this.random.list(1, 3, (i) => ({ type: this.type(), path: `@.s${i}` }));
    const line = `select ${made.map(({ type, path }) => `${this.value(type, 1)} as ${path.slice(2)}`).join(', ')}, @.id`;
    this.fields = [...made, { path: '@.id', type: 'number' }];
    this.arrays = [];
    return [line];
  }

  private join(): string[] {
    const { random } = this;
    const table = random.pick(tables);
    const name = this.free('p');
    const kind = random.pick(['join', 'left join', 'gather join']);
    this.isSingle &&= kind === 'gather join';
    const partner = fieldsOf(table, name);
    const key = random.pick(['id', 'kind']);
    const own = key === 'id' ? random.pick(this.fields.filter(({ type }) => type === 'number')) : random.pick(this.fields);
    const more = random.chance(0.3) ? ` && ${random.pick(partner).path} ${random.pick(['!=', '>', '=='])} ${this.literal('number')}` : '';
    const line = `${kind} ${table.name} as ${name} on ${name}.${key} == ${(own ?? this.fields[0]!).path}${more}`;
    if (kind === 'gather join') this.arrays.push({ path: `@.${name}`, elements: fieldsOf(table, '@') });
    else this.fields.push(...partner.map(({ path, type }) => ({ path: `@.${path}`, type })));
    return [line];
  }

  private unnest(): string[] {
    const { random } = this;
    this.isSingle = false;
    if (this.arrays.length === 0) return [`where ${this.condition(1)}`];
    const { path, elements } = random.pick(this.arrays);
    const name = this.free('e');
    this.fields.push(...elements.map((one) => ({ ...one, path: one.path.replace('@', `@.${name}`) })));
    const place = random.chance(0.2) ? this.free('at') : undefined;
    if (place !== undefined) this.fields.push({ path: `@.${place}`, type: 'number' });
    return [
      `unnest ${path} as ${name}${place === undefined ? '' : ` with position as ${place}`}${random.chance(0.4) ? ' keep empty' : ''}`,
    ];
  }

  private group(): string[] {
    const { random } = this;
    const keys = random.list(0, 2, (i) => ({ type: this.type(), path: `@.g${i}` }));
    const measures = random.list(1, 3, (i) => ({ ...this.measure(), path: `@.m${i}` }));
    const by = keys.map(({ type, path }) => `${random.chance(0.8) ? this.field(type) : this.value(type, 1)} as ${path.slice(2)}`);
    const line = `group ${keys.length === 0 ? 'all' : `by ${by.join(', ')}`} measure ${measures.map(({ text, path }) => `${path.slice(2)} = ${text}`).join(', ')}`;
    this.fields = [...keys, ...measures.map(({ path, type }) => ({ path, type }))];
    this.arrays = [];
    this.isSingle = false;
    return [line];
  } // prettier-ignore

  private measure(): { text: string; type: Type } {
    const { random } = this;
    const where = random.chance(0.2) ? ` where ${this.condition(1)}` : '';
    const text = random.weighed([
      [3, () => 'count()'],
      [5, () => `${random.pick(['sum', 'avg', 'min', 'max', 'median', 'stddev'])}(${this.value('number', 1)})`],
      [2, () => `count_distinct(${this.field(this.type())})`],
      [1, () => `percentile(${this.field('number')}, ${random.pick(['0', '25', '90'])})`],
      [1, () => `${random.pick(['any', 'every'])}(${this.condition(1)})`],
    ]);
    return { text: text + where, type: 'number' };
  }

  private rank(): string[] {
    const { random } = this;
    const name = this.free('r');
    const partition = random.chance(0.6) ? ` partition by ${random.pick(this.fields).path}` : '';
    const line = `${random.pick(['rank', 'dense rank'])} as ${name}${partition} order by ${this.order()}`;
    this.fields.push({ path: `@.${name}`, type: 'number' });
    return random.chance(0.5) ? [line, `where @.${name} <= ${1 + random.below(3)}`] : [line];
  }

  private order(): string {
    return `${this.random.pick(this.fields).path}${this.random.pick(['', ' desc'])}${this.random.pick(['', '', ' nulls first'])}`;
  }

  private next = 0;
  private free(letter: string): string {
    return `${letter}_${++this.next}`;
  }
  private type(): Type {
    return this.random.pick(['number', 'text']);
  }
  private field(type: Type): string {
    const fitting = this.fields.filter((one) => one.type === type);
    return this.random.pick(fitting.length > 0 ? fitting : this.fields).path;
  }
  private literal(type: Type): string {
    return type === 'text' ? this.random.pick(['"late"', '"early"', '"a_b"', '"100%"', '"o\'clock"', '""', '"Sör"']) : this.random.pick(['0', '1', '3', '-1', '2.5', '5']); // prettier-ignore
  }

  value(type: Type, depth: number): string {
    const { random } = this;
    if (depth <= 0 || random.chance(0.5)) return random.chance(0.8) ? this.field(type) : this.literal(type);
    const inner = (of: Type = type): string => this.value(of, depth - 1);
    const either: [number, () => string][] = [
      [2, () => `coalesce(${inner()}, ${inner()})`],
      [2, () => `if(${this.condition(depth - 1)}, ${inner()}, ${inner()})`],
    ];
    if (type === 'text')
      return random.weighed([
        ...either,
        [1, () => `concat(${inner()}, ${inner()})`],
        [1, () => `substring(${inner()}, ${random.below(3)}, ${random.below(4)})`],
        [1, () => `replace(${inner()}, "a", "-")`],
        [1, () => `trim(${inner()})`],
        [1, () => `type_of(${this.field(this.type())})`],
        [1, () => `text(${inner('number')})`],
      ]);
    return random.weighed([
      ...either,
      [4, () => `(${inner()} ${random.pick(['+', '-', '*', '/', '%'])} ${inner()})`],
      [1, () => `-${this.field('number')}`],
      [1, () => `${random.pick(['abs', 'floor', 'ceil', 'round'])}(${inner()})`],
      [1, () => `length(${inner('text')})`],
      [1, () => `position_of(${inner('text')}, "a")`],
      [this.arrays.length > 0 ? 2 : 0, () => `length(${random.pick(this.arrays).path})`],
      [this.arrays.length > 0 ? 2 : 0, () => `count(${random.pick(this.arrays).path}[*])`],
      [1, () => `number(${inner('text')})`],
    ]);
  }

  condition(depth: number): string {
    const { random } = this;
    if (depth > 0 && random.chance(0.4)) {
      const [a, b] = [this.condition(depth - 1), this.condition(depth - 1)];
      return random.pick([`(${a} && ${b})`, `(${a} || ${b})`, `!(${a})`]);
    }
    const type = this.type();
    const value = (): string => (this.hasKeys ? this.value(type, depth - 1) : this.field(type));
    return random.weighed([
      [8, () => `${value()} ${random.pick(['==', '!=', '<', '<=', '>', '>='])} ${random.chance(0.6) || !this.hasKeys ? this.literal(type) : value()}`],
      [3, () => `${this.field(type)} in [${random.list(1, 3, () => this.literal(type)).join(', ')}]`],
      [1, () => `${this.field(type)} ${random.pick(['==', '!='])} null`],
      [1, () => this.field(type)],
      [1, () => `!${this.field(type)}`],
      [1, () => `exists(${this.field(type)})`],
      [2, () => `${random.pick(['starts_with', 'ends_with', 'contains'])}(${this.field('text')}, ${random.pick(['"a"', '"la"', '"%"', '"_"', '"!"', '""'])})`],
      [this.arrays.length > 0 ? 3 : 0, () => this.element()],
    ]);
  } // prettier-ignore

  private element(): string {
    const { random } = this;
    const { path, elements } = random.pick(this.arrays);
    const one = random.pick(elements);
    const test = `${one.path} ${random.pick(['==', '!=', '<', '>='])} ${this.literal(one.type)}`;
    return random.pick([`${random.pick(['any', 'every'])}(${path}, ${test})`, `${path}[?${test}]`, `includes(${path}, ${this.literal(one.type)})`, `exists(${path}[0])`]); // prettier-ignore
  }
}

const plain = (type: string): Type => (type === 'text' ? 'text' : 'number');
const fieldsOf = (table: TestTable, root: string): Field[] =>
  table.columns.map(({ path, type }) => ({ path: `${root}.${path.join('.')}`, type: plain(type) }));
