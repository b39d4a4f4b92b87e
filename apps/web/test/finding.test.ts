import { found } from '../src/app/found.ts';

test('what is typed in the palette finds the same name first, then what begins with it, then the rest in their order', () => {
  const places = [['Make a database', 'do'], ['Runs', 'screen'], ['data of huts', 'pipeline'], ['Data', 'screen'], ['bookings', 'indexes of']].map(([label, kind]) => ({ label: label!, kind: kind! })); // prettier-ignore
  const labels = (typed: string) => found(places, typed).map(({ label }) => label);
  expect(labels('data')).toEqual(['Data', 'data of huts', 'Make a database']);
  expect(labels('indexes book')).toEqual(['bookings']);
  expect(labels('')).toHaveLength(5);
  expect(labels('nothing of it')).toEqual([]);
});
