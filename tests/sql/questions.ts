import type { Random } from '../torture/random.ts';
import { tables, type TestColumn, type TestTable } from './data.ts';

/** A text in our SQL, and the same question in SQLite's, whose tables are `name(id, body)`. */
export interface Both {
  readonly ours: string;
  readonly theirs: string;
}
interface Value extends Both {
  readonly type: TestColumn['type'];
}
interface Source {
  readonly alias: string;
  readonly values: readonly Value[];
  readonly arrays: readonly { readonly written: Both; readonly element: readonly TestColumn[] }[];
}

const both = (text: string): Both => ({ ours: text, theirs: text });
/** Joins pieces, of which some differ. */
function sql(parts: TemplateStringsArray, ...pieces: readonly (Both | string)[]): Both {
  const write = (side: keyof Both) => parts.map((part, i) => part + (pieces[i] === undefined ? '' : typeof pieces[i] === 'string' ? pieces[i] : pieces[i][side])).join(''); // prettier-ignore
  return { ours: write('ours'), theirs: write('theirs') };
}
const joined = (pieces: readonly Both[], by: string): Both => ({
  ours: pieces.map(({ ours }) => ours).join(by),
  theirs: pieces.map(({ theirs }) => theirs).join(by),
});

/** Makes questions that SQLite answers alike: over one table or several, nested fields, arrays, groups, windows, subqueries. */
export class Questions {
  private readonly random: Random;
  private sources: Source[] = [];
  private next = 0;

  constructor(random: Random) {
    this.random = random;
  }

  question(): Both {
    this.sources = [];
    this.next = 0;
    const { random } = this;
    if (random.chance(0.15)) return this.withMember();
    return this.select();
  }

  private alias(): string {
    return `t${++this.next}`;
  }

  private table(table: TestTable, alias: string): Source {
    const values = table.columns.map(({ path, type }): Value => ({
      ours: [alias, ...path].join('.'),
      theirs: `json_extract(${alias}.body, '$.${path.join('.')}')`,
      type,
    }));
    const arrays = table.arrays.map(({ path, element }) => ({ written: { ours: [alias, ...path].join('.'), theirs: `${alias}.body, '$.${path.join('.')}'` }, element }));
    return { alias, values, arrays };
  } // prettier-ignore

  private from(): Both {
    const { random } = this;
    const table = random.pick(tables);
    const first = this.table(table, this.alias());
    this.sources.push(first);
    let from = both(`${table.name} AS ${first.alias}`);
    if (random.chance(0.4)) from = sql`${from} ${this.join()}`;
    if (random.chance(0.3)) from = sql`${from} ${this.elements()}`;
    return from;
  }

  private join(): Both {
    const { random } = this;
    const table = random.pick(tables);
    const own = this.table(table, this.alias());
    const left = random.pick(this.sources);
    const pair = random.chance(0.7)
      ? [left.values.find(({ ours }) => /\.(hut|id)$/.test(ours))!, own.values[0]!]
      : [left.values.find(({ ours }) => ours.endsWith('.kind'))!, own.values.find(({ ours }) => ours.endsWith('.kind'))!];
    this.sources.push(own);
    const more = random.chance(0.3) ? sql` AND ${this.condition(1)}` : both('');
    const how = random.pick(['JOIN', 'LEFT JOIN', 'comma'] as const);
    if (how === 'comma' && more.ours === '') {
      this.pending.push(sql`${pair[0]!} = ${pair[1]!}`);
      return both(`CROSS JOIN ${table.name} AS ${own.alias}`);
    }
    return sql`${how === 'comma' ? 'JOIN' : how} ${table.name} AS ${own.alias} ON ${pair[0]!} = ${pair[1]!}${more}`;
  }
  private pending: Both[] = [];

  private elements(): Both {
    const { random } = this;
    const { written, element } = random.pick(random.pick(this.sources).arrays);
    const alias = this.alias();
    const isPlain = element[0]!.path[0] === '';
    const values = element.map(({ path, type }): Value => isPlain
      ? { ours: alias, theirs: `${alias}.atom`, type }
      : { ours: [alias, ...path].join('.'), theirs: `json_extract(${alias}.value, '$.${path.join('.')}')`, type });
    const ordinal = random.chance(0.3) ? `${alias}_n` : undefined;
    const numbered: readonly Value[] = ordinal === undefined ? [] : [{ ours: ordinal, theirs: `(${alias}.key + 1)`, type: 'whole' }];
    this.sources.push({ alias, values: [...values, ...numbered], arrays: [] });
    const as = ordinal === undefined ? `AS ${alias}` : `WITH ORDINALITY AS ${alias}(${alias}, ${ordinal})`;
    const keep = random.chance(0.4);
    return {
      ours: `${keep ? 'LEFT JOIN' : 'CROSS JOIN'} UNNEST(${written.ours}) ${as}${keep ? ' ON TRUE' : ''}`,
      theirs: `${keep ? 'LEFT JOIN' : 'JOIN'} json_each(${written.theirs}) AS ${alias} ON TRUE`,
    };
  } // prettier-ignore

  private column(type?: 'text' | 'number'): Value {
    const all = this.sources.flatMap(({ values }) => values);
    const fitting = type === undefined ? all : all.filter((one) => (one.type === 'text') === (type === 'text'));
    return this.random.pick(fitting.length > 0 ? fitting : all);
  }

  private literal(type: 'text' | 'number'): Both {
    const { random } = this;
    if (random.chance(0.06)) return both('NULL');
    if (type === 'text') return both(random.pick(["'late'", "'early'", "'a_b'", "'o''clock'", "''", "'Sör'", "'zz'"]));
    return both(random.pick(['0', '1', '3', '-1', '2.5', '5']));
  }

  private value(type: 'text' | 'number', depth: number): Both {
    const { random } = this;
    if (depth <= 0 || random.chance(0.5)) return random.chance(0.75) ? this.column(type) : this.literal(type);
    const inner = (): Both => this.value(type, depth - 1);
    if (random.chance(0.2)) return sql`CASE WHEN ${this.condition(depth - 1)} THEN ${inner()} ELSE ${inner()} END`;
    if (random.chance(0.15)) return sql`COALESCE(${inner()}, ${inner()})`;
    if (random.chance(0.1)) return sql`NULLIF(${inner()}, ${inner()})`;
    if (type === 'text') {
      return random.pick([
        () => sql`UPPER('x' || ${this.ascii()})`,
        () => sql`(${this.textOnly()} || ${this.textOnly()})`,
        () => this.substring(),
        () => sql`REPLACE(${this.textOnly()}, 'a', '-')`,
        () => ({ ours: `TRIM(' ' || ${this.textOnly().ours} || ' ')`, theirs: '' }),
      ].slice(0, 4))();
    }
    return random.pick([
      () => sql`(${inner()} ${random.pick(['+', '-', '*'])} ${inner()})`,
      () => this.divided(inner(), inner()),
      () => sql`ABS(${inner()})`,
      () => this.text((text) => ({ ours: `CHAR_LENGTH(${text.ours})`, theirs: `LENGTH(${text.theirs})` })),
      () => this.text((text) => ({ ours: `POSITION('a' IN ${text.ours})`, theirs: `INSTR(${text.theirs}, 'a')` })),
      () => sql`FLOOR(${inner()})`,
    ])();
  } // prettier-ignore

  private divided(a: Both, b: Both): Both {
    return { ours: `(${a.ours} / ${b.ours})`, theirs: `((${a.theirs}) * 1.0 / (${b.theirs}))` };
  }
  private text(make: (text: Both) => Both): Both {
    return make(this.textOnly());
  }
  /** A column that is text, whatever there is of others. */
  private textOnly(): Both {
    const found = this.sources.flatMap(({ values }) => values).filter(({ type }) => type === 'text');
    return found.length > 0 ? this.random.pick(found) : both("'plain'");
  }
  /** SQLite changes the case of ASCII alone. */
  private ascii(): Both {
    const text = this.textOnly();
    return sql`CASE WHEN ${text} IN ('late', 'Late', 'early') THEN ${text} END`;
  }
  private substring(): Both {
    const text = this.textOnly();
    const from = this.random.below(4) + 1;
    const length = this.random.below(4);
    return { ours: `SUBSTRING(${text.ours} FROM ${from} FOR ${length})`, theirs: `SUBSTR(${text.theirs}, ${from}, ${length})` };
  }

  condition(depth: number): Both {
    const { random } = this;
    if (depth > 0 && random.chance(0.35)) {
      const parts = [this.condition(depth - 1), this.condition(depth - 1)] as const;
      return random.pick([
        () => sql`(${parts[0]} AND ${parts[1]})`,
        () => sql`(${parts[0]} OR ${parts[1]})`,
        () => sql`NOT (${parts[0]})`,
        () => sql`(${parts[0]}) IS ${random.pick(['TRUE', 'NOT TRUE', 'FALSE', 'NOT FALSE'])}`,
        () => ({ ours: `(${parts[0].ours}) IS UNKNOWN`, theirs: `(${parts[0].theirs}) IS NULL` }),
      ])();
    }
    const type = random.pick(['text', 'number'] as const);
    const value = (): Both => this.value(type, depth - 1);
    return random.pick([
      () => sql`${value()} ${random.pick(['=', '<>', '=', '<', '<=', '>', '>='])} ${value()}`,
      () => sql`${value()} IS ${random.pick(['', 'NOT '])}NULL`,
      () => sql`${value()} ${random.pick(['', 'NOT '])}BETWEEN ${this.literal(type)} AND ${this.literal(type)}`,
      () => sql`${value()} ${random.pick(['', 'NOT '])}IN (${joined(Array.from({ length: 1 + random.below(3) }, () => this.literal(type)), ', ')})`,
      () => sql`${this.textOnly()} ${random.pick(['', 'NOT '])}LIKE ${random.pick(["'l%'", "'%e'", "'%a%'", "'_a%'", "'late'", "'a!_b' ESCAPE '!'", "'1%0!%' ESCAPE '!'", "'%'", "''", "'e%y'"])}`,
      () => sql`${value()} IS ${random.pick(['', 'NOT '])}DISTINCT FROM ${value()}`,
    ])();
  } // prettier-ignore

  /** A condition with a subquery, of another table. */
  private subquery(): Both {
    const { random } = this;
    const outer = this.sources;
    const table = random.pick(tables);
    const own = this.table(table, this.alias());
    const key = outer[0]!.values.find(({ ours }) => /\.(hut|id)$/.test(ours))!;
    const not = random.chance(0.4) ? 'NOT ' : '';
    this.sources = [own];
    const where = random.chance(0.5) ? sql` AND ${this.condition(1)}` : both('');
    this.sources = outer;
    if (random.chance(0.5)) return sql`${not}EXISTS (SELECT 1 FROM ${table.name} AS ${own.alias} WHERE ${own.values[0]!} = ${key}${where})`;
    const column = own.values.find(({ ours }) => /\.(hut|id)$/.test(ours))!;
    return sql`${key} ${not}IN (SELECT ${column} FROM ${table.name} AS ${own.alias} WHERE ${column} IS NOT NULL${where})`;
  }

  private select(): Both {
    const { random } = this;
    this.pending = [];
    const from = this.from();
    const conditions = [...this.pending, ...(random.chance(0.7) ? [this.condition(2)] : []), ...(random.chance(0.2) ? [this.subquery()] : [])];
    const where = conditions.length === 0 ? both('') : sql` WHERE ${joined(conditions, ' AND ')}`;
    const shape = random.pick(['plain', 'plain', 'group', 'group', 'all', 'distinct', 'window'] as const);
    if (shape === 'group' || shape === 'all') return this.grouped(from, where, shape === 'group');
    const items = Array.from({ length: 1 + random.below(3) }, () => this.value(random.pick(['text', 'number']), 2));
    if (shape === 'window') items.push(this.window());
    const named = joined(items.map((item, i) => sql`${item} AS c${String(i)}`), ', ');
    const order = items.map((_, i) => this.order(`c${i}`));
    if (shape === 'distinct') return sql`SELECT DISTINCT ${named} FROM ${from}${where}`;
    const all = sql`SELECT ${named} FROM ${from}${where}`;
    return random.chance(0.4) ? sql`${all} ORDER BY ${joined(order, ', ')} LIMIT ${String(random.below(20))} OFFSET ${String(random.below(4))}` : all;
  } // prettier-ignore

  /** SQLite puts NULL first unless it is told. */
  private order(name: string): Both {
    const direction = this.random.pick(['', ' ASC', ' DESC']);
    const nulls = this.random.pick(['', ' NULLS FIRST', ' NULLS LAST']);
    return { ours: `${name}${direction}${nulls}`, theirs: `${name}${direction}${nulls || ' NULLS LAST'}` };
  }

  private window(): Both {
    const { random } = this;
    const partition = random.chance(0.6) ? sql`PARTITION BY ${this.column()} ` : both('');
    return sql`${random.pick(['RANK', 'DENSE_RANK'])}() OVER (${partition}ORDER BY ${this.orderOf(this.column())})`;
  }
  private orderOf(value: Both): Both {
    const direction = this.random.pick(['', ' DESC']);
    return { ours: `${value.ours}${direction}`, theirs: `${value.theirs}${direction} NULLS LAST` };
  }

  private aggregate(): Value {
    const { random } = this;
    const filter = random.chance(0.25) ? sql` FILTER (WHERE ${this.condition(1)})` : both('');
    const number = this.value('number', 1);
    const column = this.column();
    const counted = (one: Both): Value => ({ ...one, type: 'number' });
    return random.pick<() => Value>([
      () => counted(sql`COUNT(*)${filter}`),
      () => counted(sql`COUNT(${column})${filter}`),
      () => counted(sql`COUNT(DISTINCT ${column})${filter}`),
      () => counted(sql`SUM(${number})${filter}`),
      () => counted(sql`AVG(${number})${filter}`),
      () => ({ ...sql`MIN(${column})${filter}`, type: column.type }),
      () => ({ ...sql`MAX(${column})${filter}`, type: column.type }),
    ])();
  }

  private grouped(from: Both, where: Both, byKeys: boolean): Both {
    const { random } = this;
    const keys = byKeys ? Array.from({ length: 1 + random.below(2) }, () => (random.chance(0.8) ? this.column() : this.value(random.pick(['text', 'number']), 1))) : [];
    const constant = keys.filter(({ ours }) => /\bt\d/.test(ours));
    const measures = Array.from({ length: 1 + random.below(3) }, () => this.aggregate());
    const items = [...constant, ...measures].map((item, i) => sql`${item} AS c${String(i)}`);
    const group = constant.length === 0 ? both('') : sql` GROUP BY ${joined(constant, ', ')}`;
    const tested = random.pick(measures);
    const having = constant.length > 0 && random.chance(0.3) ? sql` HAVING ${tested} ${random.pick(['>', '<', '<>'])} ${this.literal(tested.type === 'text' ? 'text' : 'number')}` : both('');
    return sql`SELECT ${joined(items, ', ')} FROM ${from}${where}${group}${having}`;
  } // prettier-ignore

  /** A member of WITH that is read once or twice. */
  private withMember(): Both {
    const { random } = this;
    const inner = this.select();
    const columns = [...new Set([...inner.ours.matchAll(/ AS (c\d)\b/g)].map(([, name]) => name!))];
    const isTwice = random.chance(0.4);
    const name = random.pick(columns);
    const rest = isTwice ? `m AS a JOIN m AS b ON a.${name} = b.${name}` : 'm AS a';
    const items = columns.map((one) => `a.${one} AS ${one}`).join(', ');
    return sql`WITH m AS (${inner}) SELECT ${items} FROM ${rest} WHERE a.${name} IS NOT NULL`;
  }
}
