import { sourceAskedBy } from './conditionParameters.ts';

test.each([
  ['from huts\nwhere :filter', 'huts'],
  ['from huts\nwhere @.open && :filter\nselect @.id', 'huts'],
  ['from huts\norder by @.id\nlimit 3\nwhere :filter', 'huts'],
  ['from huts\noff compute a = 1\nwhere :filter', 'huts'],
  ['from huts\ncompute bunks = 1\nwhere :filter', undefined],
  ['from huts\njoin members as m on m.id == @.warden\nwhere :filter', undefined],
  ['from huts\nwhere @.bunks > :filter', undefined],
  ['where :filter', undefined],
  ['from huts', undefined],
])('%j asks of documents as they are in %s', (pipeline, source) => expect(sourceAskedBy(pipeline, 'filter')).toBe(source));
