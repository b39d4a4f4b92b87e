import type { Identified, NodeId } from '../../../places.ts';
import type { Span } from '../../../span.ts';
import type { Expression } from '../../../tree.ts';
import type { SqlExpression } from '../tree.ts';
import type { Truth } from './build.ts';

export type Column = SqlExpression & { readonly kind: 'column' };
export type Subquery = SqlExpression & { readonly kind: 'inQuery' | 'exists' };

/** What there is where an expression stands. */
export interface Standpoint {
  /** The value of a column. @throws ParseFailure where there is none, or several */
  readonly column: (column: Column) => Expression;
  /** What already stands in the row for an expression: a group's key, an aggregate, a rank. */
  readonly replaced: (expression: SqlExpression) => Expression | undefined;
  /** Whether a subquery has the row. @throws ParseFailure where none can stand */
  readonly subquery: (subquery: Subquery) => { readonly isTrue: Truth; readonly isFalse: () => Truth };
  readonly at: (node: Identified) => Span;
}

/** SQL's expressions in the notation's: a value, or whether a predicate is true, or false; it may be neither. */
export interface Meaning extends Standpoint {
  readonly value: (expression: SqlExpression) => Expression;
  readonly isTrue: (predicate: SqlExpression) => Truth;
  readonly isFalse: (predicate: SqlExpression) => Truth;
}

export type { NodeId };
