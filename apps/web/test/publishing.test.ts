import type { Publication } from '@zesty-sieve/contract';
import { addressOf, curlOf, exampleQuery, fetchOf } from '../src/features/publish/addresses.ts';
import { describedFor, putOf } from '../src/features/publish/draft.ts';

const publication = (parameters: Publication['parameters'], more: Partial<Publication> = {}): Publication =>
  ({
    name: 'late-fees',
    pipeline: 'late_fees',
    title: null,
    parameters,
    cache: null,
    guards: { timeMs: 2_000, documentsRead: 1_000, memoryBytes: 1_000, atOnce: 4 },
    maxRows: 1_000,
    access: 'open',
    origins: [],
    columns: null,
    ...more,
  }) as unknown as Publication;

describe('a saved pipeline is described as well as its text and its values tell', () => {
  test.each<[string, string, Record<string, unknown> | null, unknown]>([
    ['without parameters', 'from huts\nlimit 3', null, []],
    ['a number', 'from huts\nwhere @.bunks > :least', { least: 4 }, [{ name: 'least', kind: 'number', default: 4 }]],
    ['a text', 'from huts\nwhere @.region == :region', { region: 'Fell' }, [{ name: 'region', kind: 'text', default: 'Fell' }]],
    ['true or false', 'from huts\nwhere @.isOpen == :open', { open: false }, [{ name: 'open', kind: 'boolean', default: false }]],
    [
      'a list of texts',
      'from huts\nwhere @.region in :regions',
      { regions: ['Fell'] },
      [{ name: 'regions', kind: 'list', default: ['Fell'] }],
    ],
    ['a list of numbers', 'from huts\nwhere @.id in :ids', { ids: [1, 2] }, [{ name: 'ids', kind: 'list', of: 'number', default: [1, 2] }]],
    ['one that was saved without a value', 'from huts\nwhere @.region == :region', null, [{ name: 'region', kind: 'text' }]],
    ['null is no default', 'from huts\nwhere @.region == :region', { region: null }, [{ name: 'region', kind: 'text' }]],
    [
      'a condition, on the fields that the pipeline speaks of',
      'from huts\nwhere :filter\nwhere @.place.region == "Fell" && @["odd name"] == 1\norder by @.bunks',
      null,
      [{ name: 'filter', kind: 'condition', fields: ['@.place.region', '@.bunks'] }],
    ],
    ['of a line that is off nothing is asked', 'from huts\n-- where @.bunks > :least\nlimit 3', null, []],
  ])('%s', (_, pipeline, parameters, described) => {
    expect(describedFor({ pipeline, parameters: parameters as never })).toEqual(described);
  });
});

test('a publication is put again with all that it has, and nothing of what was worked out', () => {
  expect(putOf(publication([]))).toEqual({
    pipeline: 'late_fees',
    parameters: [],
    cache: null,
    guards: { timeMs: 2_000, documentsRead: 1_000, memoryBytes: 1_000, atOnce: 4 },
    maxRows: 1_000,
    access: 'open',
    origins: [],
  });
  const columns = [{ path: '@.hut', label: 'Hut' }];
  expect(putOf(publication([], { title: 'Late fees', columns } as never))).toMatchObject({ title: 'Late fees', columns });
});

describe('how it is asked is shown with a value for each parameter that is wanted', () => {
  test.each<[string, Publication['parameters'], Record<string, unknown> | undefined, string]>([
    ['none', [], undefined, ''],
    ['a number at its least', [{ name: 'least', kind: 'number', least: 3 }], undefined, '?least=3'],
    ['what it was saved with', [{ name: 'hut', kind: 'text' }], { hut: 'h 1 & 2' }, '?hut=h+1+%26+2'],
    ['one of its choices', [{ name: 'region', kind: 'text', choices: ['Fell', 'Tarn'] }], undefined, '?region=Fell'],
    ['one that has a default is left out', [{ name: 'least', kind: 'number', default: 2 }], { least: 7 }, ''],
    ['a condition is left out', [{ name: 'filter', kind: 'condition', fields: ['@.a'] }], undefined, ''],
    ['a list of numbers', [{ name: 'ids', kind: 'list', of: 'number' }], undefined, '?ids=1'],
    ['true or false', [{ name: 'open', kind: 'boolean' }], undefined, '?open=true'],
    ['a text that nobody knows', [{ name: 'hut', kind: 'text' }], undefined, '?hut=HUT'],
  ])('%s', (_, parameters, values, query) => expect(exampleQuery(publication(parameters), values as never)).toBe(query));

  test('a date is one', () => {
    expect(exampleQuery(publication([{ name: 'from', kind: 'date' }]), undefined)).toMatch(/^\?from=\d{4}-\d\d-\d\d$/);
  });

  test('by curl and by fetch, with a key where one is wanted', () => {
    const open = publication([]);
    const keyed = publication([], { access: 'key' });
    const address = addressOf(open, 'http://localhost:4747/api', '?hut=h-1');
    expect(address).toBe('http://localhost:4747/api/published/late-fees?hut=h-1');
    expect(curlOf(open, address)).toBe(`curl '${address}'`);
    expect(curlOf(keyed, address)).toContain('Authorization: Bearer KEY');
    expect(fetchOf(open, address)).toContain(`fetch('${address}')`);
    expect(fetchOf(keyed, address)).toContain('authorization: `Bearer ${key}`');
  });
});
