import fc from 'fast-check';
import { checkPipeline } from '../language/checkPipeline.ts';
import { usualSurface } from '../language/surfaces/registry.ts';
import { fieldTree, type FieldTree } from '../shape/fieldTree.ts';
import type { Json, JsonObject } from '../values/json.ts';
import { Engine } from './engine.ts';

const pause = () => Promise.resolve();
const bookings: JsonObject[] = [
  { id: 1, hutId: 'a', party: { size: 2, lead: 'Mira' }, nights: [{ fee: 3, extras: ['sauna'] }, { fee: 4 }], status: 'late' },
  { id: 2, hutId: 'b', party: { size: 5 }, nights: [], status: 'fine', note: null },
  {
    id: 3,
    hutId: 'z',
    party: { size: 1, lead: 'Bo' },
    nights: [{ fee: 9, extras: [] }],
    status: 'late',
    position: { type: 'Point', coordinates: [7, 46] },
  },
];
const huts: JsonObject[] = [
  { id: 'a', name: 'Alder', fee: { night: 30 }, fittings: ['stove'] },
  { id: 'b', name: 'Birch', fee: { night: 20, reviewed: '2026-01-01' } },
];

const engine = new Engine({ pause, newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') });
const shapes = new Map<string, FieldTree>();
beforeAll(async () => {
  for (const [name, documents] of Object.entries({ bookings, huts })) {
    const collection = engine.define(name, '@.id');
    documents.forEach((document, position) => collection.store.put(position, document));
    shapes.set(name, fieldTree(await collection.shape(pause)));
  }
});

/** The tree that is predicted after the last line. */
function predicted(pipeline: string): FieldTree {
  const { stages, diagnostics } = checkPipeline(usualSurface.parse(pipeline), {
    collections: ['bookings', 'huts'],
    shapeOf: (name) => shapes.get(name),
  });
  const errors = diagnostics.filter(({ severity }) => severity === 'error');
  if (errors.length > 0) throw new Error(`${pipeline}\n${errors[0].message}`);
  return stages[stages.length - 1].after;
}

async function rowsOf(pipeline: string): Promise<readonly Json[]> {
  const answer = await engine.query({ pipeline, pageSize: 1_000 });
  if (!answer.ok) throw new Error(`${pipeline}\n${answer.problem.message}`);
  return answer.value.documents;
}

/** Paths of a value that a tree does not know of. */
function unknown(value: Json, tree: FieldTree, path = '@'): string[] {
  if (tree.open) return [];
  if (Array.isArray(value))
    return tree.element === undefined ? [] : value.flatMap((item) => unknown(item, tree.element as FieldTree, `${path}[*]`));
  if (typeof value !== 'object' || value === null) return [];
  // What a field holds is not followed where nothing was seen in it.
  if (path !== '@' && tree.fields.size === 0) return [];
  return Object.entries(value).flatMap(([name, below]) => {
    const known = tree.fields.get(name);
    return known === undefined ? [`${path}.${name}`] : unknown(below, known, `${path}.${name}`);
  });
}

const names = (tree: FieldTree): string[] => [...tree.fields.keys()].sort();

test.each<[string, string[]]>([
  ['from huts', ['fee', 'fittings', 'id', 'name']],
  ['from huts\nselect @.name, @.fee.night', ['fee', 'name']],
  ['from huts\nselect @.fee.night as price.each', ['price']],
  ['from huts\nomit @.fee, @.fittings[0]', ['fittings', 'id', 'name']],
  ['from huts\ncompute a = 1, b.c = @.name', ['a', 'b', 'fee', 'fittings', 'id', 'name']],
  ['from huts\nwhere @.name == "Alder"\norder by @.id\nlimit 1\noffset 0', ['fee', 'fittings', 'id', 'name']],
  ['from huts\nunnest @.fittings as fitting with position as at', ['at', 'fee', 'fitting', 'fittings', 'id', 'name']],
  ['from huts\ngroup by @.name as hut, @.fee.night measure n = count(), most = max(@.id)', ['fee', 'hut', 'most', 'n']],
  ['from huts\ngroup all measure n = count()', ['n']],
  ['from huts\nrank as place.of order by @.name', ['fee', 'fittings', 'id', 'name', 'place']],
  ['from huts\njoin bookings as b on b.hutId == @.id\nselect @.name, @.b.party', ['b', 'name']],
  ['from huts\ngather join bookings as b on b.hutId == @.id', ['b', 'fee', 'fittings', 'id', 'name']],
  // An off line does nothing; what cannot be read might do anything.
  ['from huts\noff select @.name', ['fee', 'fittings', 'id', 'name']],
])('after %j rows are expected to have %j', (pipeline, fields) => expect(names(predicted(pipeline))).toEqual(fields));

const single = fc.constantFrom('@.id', '@.hutId', '@.party', '@.party.size', '@.party.lead', '@.status', '@.note', '@.position.coordinates', '@.hut.name', '@.hut.fee', '@.x', '@.x.y', '@.night.fee', '@.nights[0].fee'); // prettier-ignore
const value = fc.oneof(
  single,
  fc.constantFrom('1', '"text"', '@.nights[*].fee', '[@.id, @.status]', '{k: @.status, "odd name": {deep: @.id}}', '@.party.size + 1', 'first_of(@.nights)', 'each(@.nights, @.fee)', 'if(@.id > 1, @.party, @.status)', 'coalesce(@.note, @.party)'), // prettier-ignore
);
const target = fc.constantFrom('x', 'x.y', 'party.size', 'fresh', 'status');
const stage = fc.oneof(
  fc.tuple(target, value).map(([name, made]) => `compute ${name} = ${made}`),
  fc.uniqueArray(fc.tuple(fc.constantFrom('p', 'q', 'r.s'), value), { minLength: 1, maxLength: 3, selector: ([name]) => name }).map((items) => `select @.id, ${items.map(([name, made]) => `${made} as ${name}`).join(', ')}`), // prettier-ignore
  fc.constantFrom('omit @.party.size', 'omit @.nights[*].fee', 'omit @.position, @.note', 'omit @.nights'),
  fc.constantFrom('unnest @.nights as night', 'unnest @.nights as night with position as at keep empty'),
  fc.constantFrom('join huts as hut on hut.id == @.hutId', 'left join huts as hut on hut.id == @.hutId', 'gather join huts as hut on hut.id == @.hutId', 'left join huts as far.hut on hut.id == @.hutId'), // prettier-ignore
  fc.constantFrom('rank as place order by @.id', 'row number as x.place partition by @.status order by @.id desc'),
  fc.constantFrom('where @.id > 1', 'order by @.id desc', 'limit 5', 'offset 1', 'sample 2 seed 1'),
  fc.tuple(single, value).map(([key, made]) => `group by ${key} as k measure n = count(), some = collect(${made}), one = first(${made})`),
);

test('rows have no field that the shape after the last line does not know of', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(stage, { minLength: 1, maxLength: 5 }), async (stages) => {
      const pipeline = ['from bookings', ...stages].join('\n');
      const tree = predicted(pipeline);
      for (const row of await rowsOf(pipeline)) expect({ pipeline, unknown: unknown(row, tree) }).toEqual({ pipeline, unknown: [] });
    }),
    { numRuns: 1_500 },
  );
});
