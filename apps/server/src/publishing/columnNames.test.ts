import { columnNames } from './columnNames.ts';

test.each<[string, readonly string[] | undefined]>([
  ['@.hut', ['hut']],
  ['$.hut.name', ['hut', 'name']],
  ['@.fee["per night"]', ['fee', 'per night']],
  ["@['a.b'].c", ['a.b', 'c']],
  ['hut.name', ['hut', 'name']],
  ['hut', ['hut']],
  ['@', undefined],
  ['@.nights[0].fee', undefined],
  ['@.nights[*]', undefined],
  ['@..fee', undefined],
  ['@.fee + 1', undefined],
  ['@.fee[', undefined],
  ['sum(@.fee)', undefined],
  ['', undefined],
])('the column %s goes through %j', (path, names) => expect(columnNames(path)).toEqual(names));
