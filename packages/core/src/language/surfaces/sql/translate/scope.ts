import type { FieldTree } from '../../../../shape/fieldTree.ts';
import type { NodeId } from '../../../places.ts';
import { ParseFailure } from '../../notation/reader.ts';
import type { Expression, PathRoot } from '../../../tree.ts';
import { faults } from '../faults.ts';
import type { Step } from '../tree.ts';
import { path, stepsOnwards } from './build.ts';
import type { Column, Standpoint } from './meaning.ts';

/** A name of FROM, and where its part of a row is. */
export interface Table {
  readonly alias: string;
  readonly aliasId: NodeId;
  readonly kind: 'rows' | 'element';
  /** Field names from the top of the row; none for the first table. */
  readonly at: readonly string[];
  /** What its rows look like; undefined where it is not known. */
  readonly tree: FieldTree | undefined;
  /** Its columns, where they are named in the question itself: those of a subquery, or of a JSON_TABLE, and what they are. */
  readonly columns?: ReadonlyMap<string, ((id: NodeId) => Expression) | undefined>;
  /** The name of an element's place. */
  readonly ordinal?: { readonly name: string; readonly value: (id: NodeId) => Expression };
}

/** The tables of a question, and what a name means among them (ISO/IEC 9075-2, 6.6). */
export class Scope {
  readonly tables: Table[] = [];
  /** The table that is being joined, and so is called by a name of its own. */
  partner: { readonly table: Table; readonly name: string } | undefined;
  private readonly at: Standpoint['at'];

  constructor(at: Standpoint['at']) {
    this.at = at;
  }

  add(table: Table): void {
    if (this.tables.some(({ alias }) => alias === table.alias))
      throw new ParseFailure(faults.sameAlias(this.at({ id: table.aliasId }), table.alias));
    this.tables.push(table);
  }

  /** The table that a column is of, and the column's steps inside it. */
  resolve(column: Column): { readonly table: Table; readonly steps: readonly Step[] } {
    const { first, steps } = column;
    const named = this.tables.find(({ alias }) => alias === first);
    if (named !== undefined && !this.isOwnColumn(named, first, steps)) return { table: named, steps };
    const all = [first, ...steps];
    const having = this.tables.filter((table) => has(table, first) === true);
    if (having.length === 1) return { table: having[0]!, steps: all };
    const open = having.length > 0 ? having : this.tables.filter((table) => table.kind === 'rows' && has(table, first) === undefined);
    if (open.length === 1) return { table: open[0]!, steps: all };
    const known = open.length > 0 ? open : this.tables.filter((table) => table.columns === undefined && table.kind === 'rows');
    // A field that no document has is NULL, wherever it is looked for; a name before a dot was meant as a table.
    if (open.length === 0 && known.length === 1 && steps.length === 0) return { table: known[0]!, steps: all };
    if (known.length <= 1 && (steps.length > 0 || known.length === 0)) return this.unknown(column, known[0]);
    throw new ParseFailure(faults.ambiguous(this.at(column), first, known.map(({ alias }) => [alias, ...all].join('.')))); // prettier-ignore
  }

  /** Whether a table is known to have a column. */
  hasColumn(name: string): boolean {
    return this.tables.some((table) => has(table, name) === true);
  }

  private unknown(column: Column, only: Table | undefined): { readonly table: Table; readonly steps: readonly Step[] } {
    const { first, steps } = column;
    if (only !== undefined && (steps.length === 0 || has(only, first) !== false)) return { table: only, steps: [first, ...steps] };
    const columns = this.tables.flatMap((table) => [...(table.columns?.keys() ?? [])]);
    throw new ParseFailure(
      faults.unknownTable(this.at(column), first, columns.length > 0 ? columns : this.tables.map(({ alias }) => alias)),
    );
  }

  /** Whether a name that is a table's is its column all the same: a field and a table of one name. */
  private isOwnColumn(table: Table, first: string, steps: readonly Step[]): boolean {
    if (table.kind === 'element' || has(table, first) !== true) return false;
    return steps.length === 0 || (typeof steps[0] === 'string' && has(table, steps[0]) === false);
  }

  readonly value = (column: Column): Expression => {
    const { table, steps } = this.resolve(column);
    return this.valueIn(table, steps, column.id);
  };

  valueIn(table: Table, steps: readonly Step[], id: NodeId): Expression {
    const [first, ...rest] = steps;
    if (typeof first === 'string') {
      if (table.ordinal?.name === first && rest.length === 0) return table.ordinal.value(id);
      const made = table.columns?.get(first);
      const column = made?.(id);
      if (column !== undefined) {
        if (rest.length === 0) return column;
        if (column.kind === 'path') return stepsOnwards(column, rest, id);
      }
      if (table.columns !== undefined && !table.columns.has(first))
        throw new ParseFailure(faults.unknownTable(this.at({ id }), first, [...table.columns.keys()]));
    }
    const { partner } = this;
    const root: PathRoot | undefined = partner?.table === table ? { kind: 'partner', name: partner.name } : undefined;
    return path(root === undefined ? [...table.at, ...steps] : steps, id, root);
  }
}

/** Whether a table has a column; undefined where that is not known. */
function has(table: Table, name: string): boolean | undefined {
  if (table.ordinal?.name === name) return true;
  if (table.columns !== undefined) return table.columns.has(name);
  if (table.tree === undefined) return undefined;
  return table.tree.fields.has(name) || (table.tree.open ? undefined : false);
}
