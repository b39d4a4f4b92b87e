import { fieldTree, type FieldTree } from '../../../shape/fieldTree.ts';
import { Survey } from '../../../shape/survey.ts';
import { KeptTranslations } from './keptTranslations.ts';
import { translateSql } from './translate.ts';
import type { Known } from './translate/work.ts';

function treeOf(...documents: readonly object[]): FieldTree {
  const survey = new Survey();
  for (const document of documents) survey.add(document as never);
  return fieldTree(survey.fields());
}

const huts = treeOf({ id: 1, name: 'Fern', size: 3 });
const hutsWithNull = treeOf({ id: 1, name: 'Fern', size: 3 }, { id: 2, name: null, size: 4 });
const guests = treeOf({ id: 'g', hutId: 1, age: 30 });
interface Around {
  readonly names?: readonly string[];
  readonly huts?: FieldTree | undefined;
  readonly guests?: FieldTree;
  readonly identity?: readonly string[];
}
const known = ({ names = ['huts', 'guests'], identity = ['id'], ...trees }: Around = {}): Known => ({
  collections: names,
  shapeOf: (name) => (name === 'huts' ? ('huts' in trees ? trees.huts : huts) : name === 'guests' ? (trees.guests ?? guests) : undefined),
  identityOf: () => identity,
});

const joined = 'SELECT h.name AS name, g.age AS age FROM huts AS h JOIN guests AS g ON g.hutId = h.id WHERE h.size > 2';

test('a text that is asked again as things are is not translated again, and all that is told of it is the same', () => {
  const kept = new KeptTranslations();
  const first = kept.translate(joined, known());
  expect(first).toEqual(translateSql(joined, known()));
  expect(kept.translate(joined, known({ names: ['huts', 'guests'] }))).toBe(first);
});

test.each<[string, string, Around, Around]>([
  ['a collection has gone', joined, {}, { names: ['huts'] }],
  ['one has come that was missing', 'SELECT id FROM lodges', {}, { names: ['huts', 'guests', 'lodges'] }],
  ['documents have a field more', 'SELECT name FROM huts', {}, { huts: hutsWithNull }],
  ['a partner of a join has changed', joined, {}, { guests: treeOf({ id: 'g', hutId: 1, name: 'Ann' }) }],
  ['a table of a subquery has changed', 'SELECT id FROM huts WHERE id IN (SELECT hutId FROM guests)', {}, { guests: treeOf({ id: 'g', hutId: null }) }],
  ['it is known for the first time what documents look like', 'SELECT name FROM huts', { huts: undefined }, {}],
  ['the identity is another', 'SELECT id FROM guests WHERE hutId NOT IN (SELECT id FROM huts)', {}, { identity: ['key', 'no'] }],
])('where %s it is translated anew', (_, sql, before, after) => {
  const kept = new KeptTranslations();
  const first = kept.translate(sql, known(before));
  const second = kept.translate(sql, known(after));
  expect(second).not.toBe(first);
  expect(second).toEqual(translateSql(sql, known(after)));
  // And back again.
  expect(kept.translate(sql, known(before))).toEqual(translateSql(sql, known(before)));
}); // prettier-ignore

test('what it does not read may change', () => {
  const kept = new KeptTranslations();
  const first = kept.translate('SELECT name FROM huts', known());
  expect(kept.translate('SELECT name FROM huts', known({ guests: treeOf({ other: 1 }) }))).toBe(first);
});

test('texts that are very long are not kept', () => {
  const kept = new KeptTranslations();
  const long = `SELECT name FROM huts WHERE size IN (${Array.from({ length: 160_000 }, (_, i) => `${100_000 + i}`).join(',')})`;
  expect(long.length).toBeGreaterThan(1_000_000);
  const first = kept.translate('SELECT name FROM huts', known());
  expect(kept.translate(long, known()).diagnostics).toEqual([]);
  expect(kept.translate('SELECT name FROM huts', known())).toBe(first);
});

test('a text that cannot be read says so each time', () => {
  const kept = new KeptTranslations();
  expect(kept.translate('SELECT FROM', known()).diagnostics[0]?.severity).toBe('error');
  expect(kept.translate('SELECT FROM', known()).pipeline).toBeUndefined();
});
