import { guessLanguage } from './guessLanguage.ts';

test.each([
  ['english', 'The bridge is gone, and there is no way over the river until the water has fallen below the stones that one could walk on.'],
  [
    'german',
    'Die Brücke ist weg, und es gibt keinen Weg über den Fluss, bis das Wasser unter die Steine gefallen ist, auf denen man gehen kann.',
  ],
  [
    'french',
    'Le pont est parti, et il n’y a pas de chemin sur la rivière avant que l’eau ne soit descendue sous les pierres où l’on peut marcher.',
  ],
  [
    'russian',
    'Мост пропал, и через реку нет пути, пока вода не опустится ниже камней, по которым можно было бы идти на тот берег и обратно.',
  ],
  [undefined, 'footbridge broken, ford deep'],
  [undefined, Array.from({ length: 40 }, (_, i) => `qx${i} zzkt vvr`).join(' ')],
  [undefined, '今日は山に登りました。とても天気がよかったです。明日もまた登りたいと思います。'],
])('a text in %s is told', (language, text) => {
  expect(guessLanguage([text])).toBe(language);
});

test('of nothing there is no language', () => expect(guessLanguage([])).toBeUndefined());
