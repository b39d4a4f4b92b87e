import type { Told, Wording } from '../../language/wording.ts';
import type { NodeId } from '../../language/places.ts';
import { keyTexts } from '../../indexes/definition.ts';
import { usedBy, type AnyIndex, type AccessPath } from '../paths/path.ts';

/** One of the ways that were weighed, as it is told. */
export interface Weighed {
  readonly way:
    | 'full scan'
    | 'materialized view scan'
    | 'index range scan'
    | 'index lookup'
    | 'index-only scan'
    | 'index union'
    | 'index intersection'
    | 'index search'
    | 'hash join'
    | 'index nested-loop join';
  readonly collection: string;
  readonly index?: string;
  readonly keys?: readonly string[];
  /** Whether the index is built, or only planned against. */
  readonly whatIf: boolean;
  readonly chosen: boolean;
  readonly reason: Told;
  /** Absent where the way cannot answer the question. */
  readonly documentsRead?: number;
  readonly indexEntriesRead?: number;
  /** In units of reading one document in a scan. */
  readonly cost?: number;
  readonly stages: readonly NodeId[];
}

export function pathName(way: AccessPath): Weighed['way'] {
  if (way.kind === 'fullScan') return 'full scan';
  if (way.set !== undefined) return `index ${way.set.combine}`;
  if (way.path !== undefined) return 'index lookup';
  if (way.covering !== undefined) return 'index-only scan';
  return way.match?.lookup ? 'index lookup' : 'index range scan';
}

const whole = new Intl.NumberFormat('en', { maximumFractionDigits: 0 });

/** Why a way won, or why it lost to the one that did. */
export function reasonFor(way: AccessPath, chosen: AccessPath, usable: number, conditions: number): Told {
  if (way === chosen) {
    if (way.kind !== 'fullScan') return (say) => [servesText(way, say), sortText(way, say), keysText(way)].filter(Boolean).join('; ');
    if (usable > 0) return `reading ${whole.format(way.documentsRead)} documents in turn costs less than any index here`;
    return conditions === 0 ? 'every document is asked for' : 'no index serves these conditions';
  }
  if (way.kind === 'fullScan') return `would read ${whole.format(way.documentsRead)} documents`;
  const more = way.documentsRead + way.indexEntriesRead;
  if (chosen.kind === 'fullScan') {
    if (way.covering !== undefined) return `would make ${whole.format(way.indexEntriesRead)} rows of its keys, which takes longer than reading the documents in turn`; // prettier-ignore
    return `would follow ${whole.format(way.indexEntriesRead)} entries to their documents one by one, which costs more than reading all in turn`;
  }
  if (way.rowsSorted > chosen.rowsSorted) return `would have to sort ${whole.format(way.rowsSorted)} rows`;
  return `would read ${whole.format(more)} entries and documents, the chosen one ${whole.format(chosen.documentsRead + chosen.indexEntriesRead)}`;
}

/** The conditions that a way serves. */
export function servesText(way: AccessPath, say: Wording): string {
  const used = usedBy(way).map(({ expression }) => say.expression(expression));
  return used.length > 0 ? `serves ${used.join(' and ')}` : '';
}

function sortText({ match }: AccessPath, say: Wording): string {
  if (match?.ordered === undefined) return '';
  const { given, left } = match.ordered;
  if (left.length === 0) return 'gives the order, so nothing is sorted';
  return `gives the order by ${given.map(say.orderKey).join(', ')}, so that only rows that tie on it are sorted`;
}

function keysText({ covering }: AccessPath): string {
  return covering ? 'has all that is read, so no document is' : '';
}

/** The indexes that a way uses. */
export function indexesOf({ statistics, set, path }: AccessPath): readonly AnyIndex[] {
  const one = statistics ?? path?.statistics;
  return set?.parts.map((part) => part.statistics) ?? (one === undefined ? [] : [one]);
}

export function keysOf(way: AccessPath): readonly string[] {
  return indexesOf(way).flatMap(({ definition }) => keyTexts(definition));
}
