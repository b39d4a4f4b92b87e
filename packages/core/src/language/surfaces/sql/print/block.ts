import type { Row } from './writer.ts';

/** A column of a question: its name, which may nest, and what it is. */
export interface Item {
  readonly target: readonly string[];
  readonly text: string;
  /** Whether it may be null and is never missing. */
  readonly isWhole: boolean;
}

/** One SELECT while it is put together: its clauses, and where the fields of its rows are. */
export interface Block {
  readonly from: string[];
  row: Row;
  readonly where: string[];
  /** The columns by which it groups, with what it measures; none while rows are single. */
  groups: { readonly keys: readonly string[]; readonly items: readonly Item[] } | undefined;
  readonly having: string[];
  /** What is selected; undefined while rows go on as they are, with what was computed beside them. */
  items: readonly Item[] | undefined;
  /** The columns of the member of WITH that it reads; undefined where it reads documents. */
  columns: readonly Item[] | undefined;
  /** What was computed, or brought by other tables where rows can nest, in the order in which it came. */
  computed: Item[];
  isDistinct: boolean;
  /** The ranks that stand in it, which no condition and no other rank of its own can read. */
  readonly ranks: Set<string>;
  order: readonly string[];
  offset: string | undefined;
  limit: string | undefined;
}

export function emptyBlock(from: string, row: Row): Block {
  return { from: [from], row, where: [], groups: undefined, having: [], items: undefined, columns: undefined, computed: [], isDistinct: false, ranks: new Set(), order: [], offset: undefined, limit: undefined }; // prettier-ignore
}

/** Whether rows have been cut off, so that what follows looks at fewer of them. */
export const isSliced = ({ offset, limit }: Block): boolean => offset !== undefined || limit !== undefined;

/** The clauses in SQL's order, each on a line of its own. */
export function written(block: Block, items: string, noLimit?: string): string {
  const and = (conditions: readonly string[]): string => conditions.map((one) => (conditions.length > 1 && / OR /.test(one) ? `(${one})` : one)).join('\n  AND '); // prettier-ignore
  const { groups } = block;
  const limit = block.limit ?? (block.offset === undefined ? undefined : noLimit);
  return [
    `SELECT ${block.isDistinct ? 'DISTINCT ' : ''}${items}`,
    `FROM ${block.from.join('\n')}`,
    ...(block.where.length === 0 ? [] : [`WHERE ${and(block.where)}`]),
    ...(groups === undefined || groups.keys.length === 0 ? [] : [`GROUP BY ${groups.keys.join(', ')}`]),
    ...(block.having.length === 0 ? [] : [`HAVING ${and(block.having)}`]),
    ...(block.order.length === 0 ? [] : [`ORDER BY ${block.order.join(', ')}`]),
    ...(limit === undefined ? [] : [`LIMIT ${limit}`]),
    ...(block.offset === undefined ? [] : [`OFFSET ${block.offset}`]),
  ].join('\n');
}
