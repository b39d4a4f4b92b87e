import { emptyTree, openTree } from '../../shape/fieldTree.ts';
import { findings } from '../diagnostics/findings.ts';
import { nearest } from '../diagnostics/nearest.ts';
import { parseSourceName } from '../surfaces/notation/names.ts';
import type { FromStage } from './stage.ts';
import type { StageDefinition } from './definition.ts';
import { no, none, nothing } from './traits.ts';

export const from: StageDefinition<FromStage> = {
  words: ['from'],
  doc: 'The collection that the documents come from. First, and once.',
  example: 'from bookings',
  parse: (reader) => {
    const { name, id } = parseSourceName(reader);
    return { kind: 'from', source: name, sourceId: id };
  },
  print: (stage) => `from ${stage.source}`,
  expressions: () => [],
  traits: {
    gives: () => 'new',
    decidedBy: 'rows',
    order: 'made',
    looksAtOrder: no,
    keepsOnly: none,
    worksOnParts: false,
    writes: nothing,
    source: ({ source, sourceId }) => ({ name: source, id: sourceId }),
    made: none,
  },
  check: ({ source, sourceId }, scope) => {
    if (scope.collections !== undefined && !scope.collections.includes(source)) {
      scope.report(findings.unknownCollection(scope.at({ id: sourceId }), source, nearest(source, scope.collections)));
    }
  },
  effect: ({ source }, _before, scope) => {
    const tree = scope.shapeOf(source) ?? openTree;
    return tree === emptyTree ? openTree : tree;
  },
};
