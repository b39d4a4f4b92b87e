import type { IndexInfo, IndexKindName } from '@zesty-sieve/contract';
import type { IndexKindView } from './kind.ts';
import { ordered } from './ordered.tsx';
import { place } from './place.tsx';
import { text } from './text.tsx';
import { vector } from './vector.tsx';

const views = { ordered, text, place, vector } satisfies { readonly [K in IndexKindName]: unknown };

export const indexKindNames = Object.keys(views) as IndexKindName[];

/** The view of a kind, taken for any: the registry has paired each with its own. */
export function viewOfKind(kind: IndexKindName): IndexKindView<IndexKindName, unknown> {
  return views[kind] as IndexKindView<IndexKindName, unknown>;
}

/** What an index is on, as it is named wherever it is told of. */
export function headingOf(index: IndexInfo): string {
  return viewOfKind(index.kind).heading(index);
}
