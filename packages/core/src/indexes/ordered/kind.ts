import type { IndexKind } from '../kind.ts';
import { checkIndex } from './checking.ts';
import { OrderedIndex } from './orderedIndex.ts';
import { summaryOf } from './summaries.ts';

export const ordered: IndexKind<OrderedIndex> = {
  words: { title: 'Ordered', doc: 'Entries in the order of the keys: equality, ranges, orders, and least and greatest.' },
  unfit: ({ keys }) =>
    keys.filter((key) => key.several).length > 1 ? 'An index may have one key that selects several values, not two.' : undefined,
  build: (definition, store) => OrderedIndex.build(definition, store),
  check: checkIndex,
  summary: summaryOf,
  access: { by: 'order' },
};
