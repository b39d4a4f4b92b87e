import { emptyTree, openTree } from '../../shape/fieldTree.ts';
import { findings } from '../diagnostics/findings.ts';
import { nearest } from '../diagnostics/nearest.ts';
import { parseSourceName } from '../grammar/names.ts';
import type { FromStage, StageDefinition } from './stage.ts';
import { no, none, nothing } from './traits.ts';

export const from: StageDefinition<FromStage> = {
  words: ['from'],
  doc: 'The collection that the documents come from. First, and once.',
  example: 'from bookings',
  parse: (reader) => {
    const { name, from, to } = parseSourceName(reader);
    return { kind: 'from', source: name, sourceSpan: { from, to } };
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
    source: ({ source, sourceSpan }) => ({ name: source, span: sourceSpan }),
    made: none,
  },
  check: ({ source, sourceSpan }, scope) => {
    if (scope.collections !== undefined && !scope.collections.includes(source)) {
      scope.report(findings.unknownCollection(sourceSpan, source, nearest(source, scope.collections)));
    }
  },
  effect: ({ source }, _before, scope) => {
    const tree = scope.shapeOf(source) ?? openTree;
    return tree === emptyTree ? openTree : tree;
  },
};
