import { emptyTree } from '../../../../shape/fieldTree.ts';
import type { Identified } from '../../../places.ts';
import { ParseFailure } from '../../notation/reader.ts';
import { faults } from '../faults.ts';
import type { SqlExpression, SqlFrom, SqlQuery, SqlSelect } from '../tree.ts';
import { and, written } from './build.ts';
import { Columns, distinctStages, resolved, windows } from './columns.ts';
import { group, lastName, orderKeys } from './grouping.ts';
import type { Meaning, Standpoint } from './meaning.ts';
import { Scope } from './scope.ts';
import { subqueryTest } from './subqueries.ts';
import { Tables } from './tables.ts';
import { meaningAt } from './values.ts';
import { conjuncts, findAll, textOf } from './walk.ts';
import { membersOf, type Made, type Members, type Question, type Work } from './work.ts';

/** A query as stages, in the order in which they run. @throws ParseFailure */
export function translateQuery(query: SqlQuery, work: Work, outer: Members = new Map()): Question {
  return new QuestionMaker(query.body, work, membersOf(query, outer)).make();
}

class QuestionMaker {
  private readonly select: SqlSelect;
  private readonly work: Work;
  private readonly members: Members;
  private readonly scope: Scope;
  private readonly tables: Tables;
  private readonly rows: Meaning;
  /** The clause whose subqueries are joined before it. */
  private joining: { readonly clause: Identified; readonly meaning: () => Meaning } | undefined;
  /** What subqueries put into a row. */
  private readonly added: string[] = [];
  private readonly stages: Made[];
  /** How many stages bring the first table. */
  private begun = 0;

  constructor(select: SqlSelect, work: Work, members: Members) {
    this.select = select;
    this.work = work;
    this.members = members;
    const at: Standpoint['at'] = (node) => work.places.of(node);
    this.scope = new Scope(at);
    this.rows = meaningAt({ column: this.scope.value, replaced: () => undefined, subquery: (node) => this.subquery(node), at });
    this.tables = new Tables(this.scope, this.rows, work, members, ({ query }, visible) => translateQuery(query, work, visible));
    this.stages = this.tables.stages;
  }

  make(): Question {
    const { select, work } = this;
    this.from();
    const keys = select.groupBy?.value.map((key) => resolved(key, select, work, this.scope));
    const order = select.orderBy?.value.map((key) => ({ ...key, expression: resolved(key.expression, select, work) })) ?? [];
    const items = select.select.value.flatMap((item) => (item.kind === 'expression' ? [item.expression] : []));
    const after = [...items, ...(select.having === undefined ? [] : [select.having.value]), ...order.map(({ expression }) => expression)];
    const isGrouped = keys !== undefined || select.having !== undefined || findAll(after, 'aggregate').length > 0;
    let meaning = this.rows;
    if (isGrouped) {
      const grouping = { keys: (keys ?? []).map((expression) => ({ expression, name: this.nameOf(expression) ?? lastName(expression) })), clause: select.groupBy?.id, after, nameOf: this.nameOf }; // prettier-ignore
      const grouped = group(grouping, this.rows, work, select.select.id);
      this.stages.push(...grouped.stages);
      this.tables.names = grouped.names;
      meaning = grouped.meaning;
    }
    if (select.having !== undefined) this.where(conjuncts(select.having.value), select.having, meaning);
    const ranked = windows([...items, ...order.map(({ expression }) => expression)], meaning, select, this.tables.names);
    this.stages.push(...ranked.stages);
    const added = [...this.added, ...ranked.names];
    const columns = new Columns(select, ranked.meaning, this.scope, isGrouped, work).make(added);
    const answer = columns.stages.map((stage): Made => ({ stage, clause: select.select.id }));
    if (select.distinct && columns.columns !== undefined) {
      this.stages.push(...answer, ...distinctStages(select, columns.columns, work), ...this.slice());
    } else {
      // What is the same for all rows orders nothing.
      const by = orderKeys(order, ranked.meaning).filter(({ expression }) => expression.kind !== 'literal');
      if (select.orderBy !== undefined && by.length > 0)
        this.stages.push({ stage: { kind: 'order', keys: by }, clause: select.orderBy.id });
      this.stages.push(...this.slice(), ...answer);
    }
    const tree = columns.columns === undefined ? this.scope.tables[0]?.tree : { fields: new Map(columns.columns.map((name) => [name, emptyTree])) }; // prettier-ignore
    return { stages: this.stages, columns: columns.columns, tree: columns.columns === undefined ? tree : undefined };
  }

  /** The name of the column of SELECT that is written like an expression. */
  private readonly nameOf = (expression: SqlExpression): string | undefined => {
    const text = textOf(expression);
    const items = this.select.select.value;
    const place = items.findIndex((one) => one.kind === 'expression' && textOf(one.expression) === text);
    const item = items[place];
    return item?.kind === 'expression' ? (item.alias ?? lastName(item.expression) ?? `column${place + 1}`) : undefined;
  };

  /** FROM and WHERE: each condition stands as soon as all that it reads is there. */
  private from(): void {
    const { where, from } = this.select;
    const [first, ...rest] = from;
    if (first?.kind !== 'table') throw new ParseFailure(faults.onlyTables(this.work.places.of(first!)));
    this.tables.first(first);
    this.begun = this.stages.length;
    let waiting = conjuncts(where?.value);
    const later = new Set(rest.map(({ alias }) => alias));
    if (where !== undefined && rest.length > 0) {
      const early = waiting.filter((one) => this.isOfFirst(one, first, later));
      waiting = waiting.filter((one) => !early.includes(one));
      this.where(early, where, this.rows);
    }
    for (const item of rest) {
      later.delete(item.alias);
      if (item.kind !== 'table') {
        this.tables.elements(item);
        continue;
      }
      const joined = item.join === 'cross' ? waiting.filter((one) => this.joins(one, item, later)) : [];
      waiting = waiting.filter((one) => !joined.includes(one));
      this.tables.join(item, joined);
    }
    if (where !== undefined) this.where(waiting, where, this.rows);
  }

  /** Whether a condition reads the first table alone, as its names say it outright. */
  private isOfFirst(condition: SqlExpression, first: SqlFrom, later: ReadonlySet<string>): boolean {
    if (findAll([condition], 'inQuery').length + findAll([condition], 'exists').length > 0) return false;
    const columns = findAll([condition], 'column');
    return columns.every((column) => column.steps.length > 0 && column.first === first.alias && !later.has(column.first)); // prettier-ignore
  }

  /** Whether a condition of WHERE is an equality of a table that stands after a comma with those before it. */
  private joins(condition: SqlExpression, item: SqlFrom, later: ReadonlySet<string>): boolean {
    if (condition.kind !== 'compare') return false;
    const columns = findAll([condition], 'column');
    const names = columns.map(({ first, steps }) => (steps.length > 0 ? first : ''));
    const known = new Set(this.scope.tables.map(({ alias }) => alias));
    return names.includes(item.alias) && names.every((name) => !later.has(name) && (name === item.alias || known.has(name)));
  }

  private where(conditions: readonly SqlExpression[], clause: Identified, meaning: Meaning): void {
    if (conditions.length === 0) return;
    this.joining = { clause, meaning: () => meaning };
    const before = this.stages.length;
    const holds = and(clause.id, ...conditions.map(meaning.isTrue));
    this.joining = undefined;
    const made: Made = { stage: { kind: 'where', condition: written(holds, clause.id) }, clause: clause.id };
    // Where it is known whatever the rows, the subqueries are not asked; and what no row can meet is asked before anything is joined.
    if (typeof holds === 'boolean') this.stages.length = before;
    if (holds === false && meaning === this.rows) this.stages.splice(this.begun, 0, made);
    else if (holds !== true) this.stages.push(made);
  }

  private readonly subquery: Standpoint['subquery'] = (node) => {
    const { joining, work, members, tables } = this;
    if (joining === undefined)
      throw new ParseFailure(faults.misplaced(work.places.of(node), 'A subquery', 'this clause', 'It stands in WHERE or HAVING, or as a table in FROM.')); // prettier-ignore
    return subqueryTest(node, {
      work,
      members,
      names: { partner: (wanted) => this.adding(tables.names.partner(wanted)) },
      tables: new Set(this.scope.tables.map(({ alias }) => alias)),
      meaning: joining.meaning,
      clause: joining.clause.id,
      push: (made) => this.stages.push(made),
      define: (alias, question, clause) => tables.define(alias, question, clause),
      translate: (query, visible) => translateQuery(query, work, visible),
    });
  };

  private adding(name: string): string {
    this.added.push(name);
    return name;
  }

  private slice(): Made[] {
    const { limit, offset } = this.select;
    const count = (clause: NonNullable<typeof limit>) => this.rows.value(clause.value);
    return [
      ...(offset === undefined ? [] : [{ stage: { kind: 'offset', count: count(offset) }, clause: offset.id } as const]),
      ...(limit === undefined ? [] : [{ stage: { kind: 'limit', count: count(limit) }, clause: limit.id } as const]),
    ];
  }
}
