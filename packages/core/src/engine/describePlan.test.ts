import { readDefinition } from '../indexes/definition.ts';
import type { JsonObject } from '../values/json.ts';
import type { PlanNode } from './describePlan.ts';
import { Engine } from './engine.ts';

const pause = () => Promise.resolve();
const stays = Array.from({ length: 4_000 }, (_, i): JsonObject => ({
  id: i,
  status: i % 50 === 0 ? 'late' : 'fine',
  size: i % 13,
  when: `2026-0${1 + (i % 9)}-1${i % 10}`,
  hut: `h${i % 400}`,
  name: `Guest ${i % 997}`,
  tags: [`t${i % 90}`],
  nights: [{ fee: i % 60 }],
}));
const huts = Array.from({ length: 40 }, (_, i): JsonObject => ({ id: `h${i}`, region: `r${i % 4}` }));

let engine: Engine;
beforeAll(async () => {
  engine = new Engine({ pause, newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') });
  for (const [name, documents] of Object.entries({ stays, huts })) {
    const collection = engine.define(name, '@.id');
    documents.forEach((document, position) => collection.store.put(position, document));
  }
  for (const keys of [['@.status', '@.when desc'], ['@.hut'], ['@.tags[*]'], ['fold(@.name)'], ['@.size']])
    await engine.collections.get('stays')?.buildIndex(readDefinition({ keys }), pause);
  engine.setViews(new Map([['late', { pipeline: 'from stays\nwhere @.status == "late"\ncompute x = @.size' }]]));
});

/** Steps as they are told, one a line, in the order of the work: a join's partners a step further in. */
function told({ step, detail, lines, inputs }: PlanNode, depth = 0): string[] {
  const [trunk, ...branches] = inputs;
  return [
    ...(trunk ? told(trunk, depth) : []),
    ...branches.flatMap((branch) => told(branch, depth + 1)),
    `${'  '.repeat(depth)}${lines.join()} ${step}: ${detail}`,
  ];
}

test.each<[string, string[]]>([
  ['from huts', ['1 full scan: every document of huts']],
  ['from huts\nwhere @.region == "r1"', ['1,2 full scan: every document of huts, keeping those with @.region == "r1"']],
  [
    'from stays\nwhere @.status == "late"\norder by @.when desc\nlimit 3',
    ['1,2,3 index range scan: stays by status_when_desc, @.status == "late", in its order', '4 limit: stops after 3 rows'],
  ],
  [
    'from stays\nwhere @.status == "late" && @.when > "2026-06"',
    ['1,2 index range scan: stays by status_when_desc, @.status == "late", @.when > "2026-06"'],
  ],
  [
    'from stays\nwhere starts_with(fold(@.name), "guest 12")\nlimit 2',
    ['1,2 index range scan: stays by fold_name, fold(@.name) beginning with "guest 12"', '3 limit: stops after 2 rows'],
  ],
  ['from stays\nwhere @.hut in ["h1", "h2"]', ['1,2 index lookup: stays by hut, @.hut == "h1"; @.hut == "h2"']],
  ['from stays\nwhere @.hut == "h1" && @.name != "x"', ['1,2 index lookup: stays by hut, @.hut == "h1", keeping those with @.name != "x"']],
  [
    'from stays\nwhere @.hut == "h1" || includes(@.tags, "t3")',
    ['1,2 index union: stays by hut, @.hut == "h1" or tags, @.tags[*] == "t3", keeping those with @.hut == "h1" || includes(@.tags, "t3")'],
  ],
  [
    'from stays\nwhere @.status == "fine"\norder by @.when desc, @.size\nlimit 3',
    [
      '1,2 index range scan: stays by status_when_desc, @.status == "fine", in its order',
      '3 partial sort: by @.size where rows tie on @.when desc',
      '4 limit: stops after 3 rows',
    ],
  ],
  [
    'from huts\norder by @.region, @.id desc nulls first\nlimit 3',
    ['1 full scan: every document of huts', '2,3 top-N sort: by @.region, @.id desc nulls first, keeping the first 3'],
  ],
  ['from huts\norder by @.region', ['1 full scan: every document of huts', '2 sort: by @.region']],
  [
    'from huts\ngroup by @.region\n  measure n = count(), most = max(@.id) where @.id > "h2"',
    ['1 full scan: every document of huts', '2 hash aggregate: by region: n (count), most (max)'],
  ],
  [
    'from stays\ngroup by @.size measure n = count()',
    ['1,2 index-only scan: stays by size: the different size, n (count) from its entries alone'],
  ],
  [
    'from stays\nwhere @.status == "late"\nselect @.when',
    ['1,2 index-only scan: stays by status_when_desc, @.status == "late"', '3 project: when'],
  ],
  [
    'from huts\nleft join huts as next on next.id == @.region && next.region != "r1"\nselect @.next.region as region',
    [
      '1 full scan: every document of huts',
      '  2 full scan: every document of huts, keeping those with @.region != "r1"',
      '2 hash join: next with next.id == @.region, rows without one kept',
      '3 project: region',
    ],
  ],
  [
    'from huts\njoin huts as other on other.region > @.region',
    [
      '1 full scan: every document of huts',
      '  2 full scan: every document of huts',
      '2 nested-loop join: other, each with each, pairs tested on other.region > @.region',
    ],
  ],
  [
    'from huts\nlimit 2\ngather join stays as stays on stays.hut == @.id',
    [
      '1 full scan: every document of huts',
      '2 limit: stops after 2 rows',
      '3 index nested-loop join: stays with stays.hut == @.id, gathered into a list, looked up in hut of stays',
    ],
  ],
  [
    'from huts\nunnest @.tags as tag with position as at keep empty\nomit @.tags',
    [
      '1 full scan: every document of huts',
      '2 unnest: a row for each element of @.tags, as tag, rows without elements kept',
      '3 project: all but @.tags',
    ],
  ],
  [
    'from stays\nunnest @.nights as night\nwhere @.night.fee > 3\ngroup by @.hut measure fees = sum(@.night.fee)',
    ['1 full scan: every document of stays', '2,3,4 hash aggregate: elements of @.nights, by hut: fees (sum)'],
  ],
  [
    'from huts\nrank as place partition by @.region order by @.id desc\nwhere @.place <= 3',
    [
      '1 full scan: every document of huts',
      '2 window rank: place by @.id desc in each @.region, holding ranks up to 3',
      '3 filter: keeps rows with @.place <= 3',
    ],
  ],
  [
    'from huts\nsample 5 seed 3\noffset 1',
    ['1 full scan: every document of huts', '2 sample: 5 rows at random, seed 3', '3 offset: skips 1 row'],
  ],
  // A view's steps work for the line that names it.
  [
    'from late\nwhere @.x == 3',
    ['1 index range scan: stays by status_when_desc, @.status == "late"', '1 compute: x = @.size', '2 filter: keeps rows with @.x == 3'],
  ],
])('%s is told as %j', (pipeline, steps) => {
  const answer = engine.plan({ pipeline });
  if (!answer.ok) throw new Error(answer.problem.message);
  expect(told(answer.value.plan)).toEqual(steps);
});
