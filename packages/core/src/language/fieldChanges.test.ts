import { emptyTree, fieldTree, type FieldTree } from '../shape/fieldTree.ts';
import { checkPipeline } from './checkPipeline.ts';
import { fieldChanges } from './fieldChanges.ts';
import { usualSurface } from './surfaces/registry.ts';

const tree = (...paths: string[]): FieldTree =>
  fieldTree(
    paths.map((path) => ({
      steps: path.split('.').map((field) => (field === '*' ? { element: true as const } : { field })),
      info: { types: {}, presence: 1, top: [] },
    })),
  );
const shapes: Record<string, FieldTree> = {
  bookings: tree('id', 'hutId', 'party', 'party.size', 'nights', 'nights.*', 'nights.*.fee', 'fee'),
  huts: tree('id', 'name'),
};

test.each<[string, string[], string[], string[]]>([
  ['where @.id', [], [], []],
  ['compute total = @.fee + 1', ['@.total'], [], []],
  ['compute fee = @.fee * 2', [], ['@.fee'], []],
  ['compute party.size = 1', [], ['@.party', '@.party.size'], []],
  ['select @.id, @.fee', [], [], ['@.hutId', '@.party', '@.party.size', '@.nights']],
  ['select @.id, @.party.size as fee', [], ['@.fee'], ['@.hutId', '@.party', '@.party.size', '@.nights']],
  ['omit @.party.size', [], [], ['@.party.size']],
  ['unnest @.nights as night', ['@.night', '@.night.fee'], [], []],
  ['unnest @.nights as nights', ['@.nights.fee'], ['@.nights'], []],
  ['join huts as hut on hut.id == @.hutId', ['@.hut', '@.hut.id', '@.hut.name'], [], []],
  ['join huts as party on party.id == @.hutId', ['@.party.id', '@.party.name'], ['@.party'], ['@.party.size']],
  ['group by @.hutId, @.party.size as fee measure n = count()', ['@.n'], ['@.fee'], ['@.id', '@.party', '@.party.size', '@.nights']],
  ['rank as fee order by @.id', [], ['@.fee'], []],
])('%s', (line, added, changed, dropped) => {
  const checked = checkPipeline(usualSurface.parse(`from bookings\n${line}`), {
    collections: Object.keys(shapes),
    shapeOf: (name) => shapes[name] ?? emptyTree,
  });
  const { placed, before, after } = checked.stages[1];
  expect(placed.stage && fieldChanges(placed.stage, before, after)).toEqual({ added, changed, dropped });
});
