import type { Several } from '../../../values/several.ts';
import type { Identified } from '../../places.ts';
import type { ArithmeticOperator, ComparisonOperator, Segment } from '../../tree.ts';

/** A step of a column's path: a field, or an element by its place from 0. */
export type Step = string | number;

/** The tree of an SQL expression, as it is written: names are not resolved yet, and NULL is not told apart from other values. */
export type SqlExpression = Identified &
  (
    | { readonly kind: 'literal'; readonly value: null | boolean | number | string }
    | { readonly kind: 'parameter'; readonly name: string }
    | { readonly kind: 'column'; readonly first: string; readonly steps: readonly Step[] }
    | { readonly kind: 'negative'; readonly operand: SqlExpression }
    | { readonly kind: 'arithmetic'; readonly operator: ArithmeticOperator; readonly left: SqlExpression; readonly right: SqlExpression }
    | { readonly kind: 'concat'; readonly parts: readonly SqlExpression[] }
    | { readonly kind: 'compare'; readonly operator: ComparisonOperator; readonly left: SqlExpression; readonly right: SqlExpression }
    /** IS NOT DISTINCT FROM: NULL is the same as NULL. */
    | { readonly kind: 'same'; readonly left: SqlExpression; readonly right: SqlExpression }
    | { readonly kind: 'not'; readonly operand: SqlExpression }
    | { readonly kind: 'and' | 'or'; readonly operands: readonly SqlExpression[] }
    | { readonly kind: 'between'; readonly operand: SqlExpression; readonly low: SqlExpression; readonly high: SqlExpression }
    | { readonly kind: 'in'; readonly operand: SqlExpression; readonly items: readonly SqlExpression[] }
    | { readonly kind: 'inQuery'; readonly operand: SqlExpression; readonly query: SqlQuery }
    | { readonly kind: 'exists'; readonly query: SqlQuery }
    | { readonly kind: 'like'; readonly operand: SqlExpression; readonly pattern: string; readonly escape: string | undefined }
    | { readonly kind: 'is'; readonly operand: SqlExpression; readonly what: 'null' | 'true' | 'false' | 'unknown' }
    | SqlCase
    | { readonly kind: 'cast'; readonly operand: SqlExpression; readonly type: SqlType }
    | { readonly kind: 'call'; readonly name: string; readonly arguments: readonly SqlExpression[] }
    | { readonly kind: 'extract'; readonly unit: string; readonly operand: SqlExpression }
    | SqlAggregate
    | SqlWindow
    | { readonly kind: 'object'; readonly entries: readonly { readonly name: string; readonly value: SqlExpression }[]; readonly nulls: boolean }
    | { readonly kind: 'array'; readonly items: readonly SqlExpression[]; readonly nulls: boolean }
    | SqlJson
  ); // prettier-ignore

export interface SqlCase {
  readonly kind: 'case';
  readonly operand: SqlExpression | undefined;
  readonly whens: readonly { readonly when: SqlExpression; readonly then: SqlExpression }[];
  readonly otherwise: SqlExpression | undefined;
}
export const sqlTypes = [
  'INTEGER', 'BIGINT', 'NUMERIC', 'DOUBLE PRECISION', 'REAL', 'TEXT', 'VARCHAR', 'BOOLEAN', 'DATE', 'TIMESTAMP', 'JSON',
] as const; // prettier-ignore
export type SqlType = (typeof sqlTypes)[number];

export const sqlAggregates = ['COUNT', 'SUM', 'AVG', 'MIN', 'MAX', 'STDDEV_SAMP', 'PERCENTILE_CONT', 'JSON_ARRAYAGG'] as const;
export type SqlAggregateName = (typeof sqlAggregates)[number];
export interface SqlAggregate {
  readonly kind: 'aggregate';
  readonly name: SqlAggregateName;
  readonly distinct: boolean;
  /** Undefined in COUNT(*). */
  readonly argument: SqlExpression | undefined;
  /** The share of PERCENTILE_CONT, 0 to 1. */
  readonly share: SqlExpression | undefined;
  /** The order of JSON_ARRAYAGG, or that of PERCENTILE_CONT. */
  readonly order: readonly SqlOrderKey[];
  readonly filter: SqlExpression | undefined;
}
export type SqlWindowName = 'ROW_NUMBER' | 'RANK' | 'DENSE_RANK';
export interface SqlWindow {
  readonly kind: 'window';
  readonly name: SqlWindowName;
  readonly partition: readonly SqlExpression[];
  readonly order: readonly SqlOrderKey[];
}
export interface SqlJson {
  readonly kind: 'json';
  readonly what: 'value' | 'query' | 'exists';
  readonly argument: SqlExpression;
  /** The segments of its path, from what stands before it. */
  readonly path: readonly Segment[];
  readonly returning: SqlType | undefined;
}

export interface SqlOrderKey extends Identified {
  readonly expression: SqlExpression;
  readonly direction: 'asc' | 'desc';
  readonly nulls: 'first' | 'last';
}

/** A column of the answer: everything of a table or of all, or an expression. */
export type SqlItem = Identified &
  (
    | { readonly kind: 'all'; readonly of: string | undefined }
    | { readonly kind: 'expression'; readonly expression: SqlExpression; readonly alias: string | undefined }
  );

/** What a name of FROM stands for. */
export type SqlSource =
  ({ readonly kind: 'name'; readonly name: string } & Identified) | ({ readonly kind: 'query'; readonly query: SqlQuery } & Identified);

export type SqlFrom = Identified &
  (
    | {
        readonly kind: 'table';
        readonly source: SqlSource;
        readonly alias: string;
        readonly aliasId: Identified['id'];
        readonly join: 'first' | 'inner' | 'left' | 'cross';
        readonly on: SqlExpression | undefined;
        readonly using: readonly string[];
      }
    | {
        readonly kind: 'unnest';
        readonly array: SqlExpression;
        readonly alias: string;
        /** The name of the place, from 1, of WITH ORDINALITY. */
        readonly ordinal: string | undefined;
        readonly keepEmpty: boolean;
        /** The condition of an inner join's ON. */
        readonly on: SqlExpression | undefined;
      }
    | {
        readonly kind: 'jsonTable';
        readonly argument: SqlExpression;
        readonly rows: SqlRows;
        readonly alias: string;
        readonly keepEmpty: boolean;
        readonly on: SqlExpression | undefined;
      }
  );

/** The rows of a JSON_TABLE, or of what is nested in one: a path to elements, and the columns of each. */
export interface SqlRows extends Identified {
  readonly path: readonly Segment[];
  readonly columns: readonly SqlTableColumn[];
  readonly nested: SqlRows | undefined;
}
export type SqlTableColumn = Identified &
  (
    | { readonly kind: 'value'; readonly name: string; readonly type: SqlType; readonly path: readonly Segment[] }
    | { readonly kind: 'ordinal'; readonly name: string }
  );

/** A clause with its place, from its first word on. */
export interface Clause<T> extends Identified {
  readonly value: T;
}

export interface SqlSelect {
  readonly distinct: boolean;
  readonly select: Clause<Several<SqlItem>>;
  readonly from: readonly SqlFrom[];
  readonly where: Clause<SqlExpression> | undefined;
  readonly groupBy: Clause<readonly SqlExpression[]> | undefined;
  readonly having: Clause<SqlExpression> | undefined;
  readonly orderBy: Clause<readonly SqlOrderKey[]> | undefined;
  readonly limit: Clause<SqlExpression> | undefined;
  readonly offset: Clause<SqlExpression> | undefined;
}
export interface SqlMember extends Identified {
  readonly name: string;
  readonly nameId: Identified['id'];
  readonly query: SqlQuery;
}
export interface SqlQuery extends Identified {
  readonly members: readonly SqlMember[];
  readonly body: SqlSelect;
}

/** A text of SQL: a question, how one would be answered, or what there is. */
export type SqlStatement =
  | { readonly kind: 'query'; readonly query: SqlQuery }
  | { readonly kind: 'explain'; readonly query: SqlQuery }
  | ({ readonly kind: 'describe'; readonly name: string } & Identified)
  | { readonly kind: 'showTables' };
