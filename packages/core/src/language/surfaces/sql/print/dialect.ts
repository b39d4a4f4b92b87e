import type { NullsPlace, Direction } from '../../../../values/order.ts';
import type { Measure } from '../../../stages/stage.ts';
import type { Expression } from '../../../tree.ts';
import type { Item } from './block.ts';
import type { ExpressionWriter, Placed, Row } from './writer.ts';

/** How a pipeline is written: as the SQL that is read here, or as an engine's that has tables `name(id, body)` of JSON. */
export type SqlDialect = 'iso' | 'sqlite' | 'postgresql';

/** An array that is taken apart: where it is, and what its elements and their places are called. */
export interface Elements {
  readonly array: Expression & { readonly kind: 'path' };
  readonly name: string;
  readonly place: string | undefined;
  readonly keepEmpty: boolean;
}

/** What differs from one SQL to another. */
export interface Dialect {
  readonly write: ExpressionWriter;
  /** The fields of a table under its alias; `isQuestion` where it is a member of WITH. */
  readonly table: (at: readonly string[], alias: string, isQuestion: boolean) => Placed;
  readonly column: (at: readonly string[], text: string, isCounted?: boolean) => Placed;
  readonly elements: (elements: Elements, row: Row) => { readonly text: string; readonly places: readonly Placed[] };
  readonly aggregate: (measure: Measure, row: Row, order: readonly string[]) => string;
  readonly orderKey: (value: string, direction: Direction, nulls: NullsPlace) => string;
  /** The columns of a question, and everything of a table where they are not known. */
  readonly items: (items: readonly Item[]) => readonly string[];
  readonly everything: (alias: string, computed: readonly Item[]) => string;
  /** A rank, as a value. */
  readonly rank: (text: string) => string;
  /** The number of rows of LIMIT and OFFSET. */
  readonly count: (expression: Expression, row: Row) => string;
  /** Whether an order may reckon with the columns of its own SELECT. */
  readonly ordersSelected: boolean;
  /** Whether what is computed beside a whole row stands in columns of its own once it is a member of WITH. */
  readonly keepsComputed: boolean;
  /** Whether what a join or an unnest brings can be put into a whole row. */
  readonly nestsRows: boolean;
  /** A side of a join as a whole; undefined where `*` gives all of them. */
  readonly wholeRow: ((alias: string) => string) | undefined;
  /** The columns of a row as one object. */
  readonly rowAsJson: (names: readonly string[]) => string;
  /** What to know of rows that are answered there, given whether they are ordered. */
  readonly remarks: (isOrdered: boolean) => readonly string[];
  /** What stands for no limit, where an offset needs one. */
  readonly noLimit: string | undefined;
}
