import type { Random } from './random.ts';
import { hutFirst } from './words.ts';

/*
 * One thing that was seen, in one of very many ways: the same matter in different words, words that are forms of one another, and words
 * that hardly anybody uses. The further back a word stands in its list, the rarer it is.
 */
const matters = [
  {
    things: ['footbridge', 'bridge', 'plank bridge', 'log crossing', 'wooden bridges', 'suspension bridge', 'causeway'],
    states: ['is gone', 'was carried off by the flood', 'has lost two planks', 'is broken in the middle', 'sways and is not safe', 'has been rebuilt', 'was bridged with a single log', 'collapsed under the snow'],
  },
  {
    things: ['ford', 'stream', 'ditch', 'torrent', 'meltwater channel', 'beck'],
    states: ['can be crossed on stones', 'runs too high to cross', 'has cut a new bed', 'is dry', 'flooded the meadow', 'froze over at night'],
  },
  {
    things: ['ibex', 'marmots', 'chamois', 'ravens', 'golden eagles', 'ptarmigan', 'lynx', 'bearded vulture', 'ermine'],
    states: ['grazed close to the path', 'whistled and went to ground', 'crossed the snowfield in single file', 'were not shy at all', 'left tracks across the slope', 'took the bread from a rucksack'],
  },
  {
    things: ['cornice', 'snowfield', 'avalanche cone', 'icy step', 'crevasse', 'bergschrund', 'wind slab'],
    states: ['hangs over the way', 'was soft by ten', 'has slid to the ground', 'calls for crampons', 'opened overnight', 'can be passed on the left'],
  },
  {
    things: ['waymarks', 'signpost', 'cairn', 'painted arrows', 'reflectors'],
    states: ['point the wrong way', 'have faded', 'were knocked over', 'stand again', 'are hidden by snow', 'lead into a thicket'],
  },
  {
    things: ['spring', 'water tank', 'tap', 'cistern', 'wellhead'],
    states: ['gives clear water', 'is frozen', 'tastes of iron', 'leaks', 'should be boiled'],
  },
  {
    things: ['gentians', 'edelweiss', 'alpine roses', 'arnica', 'saxifrage', 'lady’s slipper'],
    states: ['are in flower', 'have been picked', 'cover the bank', 'came early', 'were grazed down'],
  },
  {
    things: ['scree', 'boulders', 'rockfall', 'loose stones', 'moraine', 'talus'],
    states: ['came down on the track', 'moves at every step', 'closed the gully', 'blocks the gate', 'was cleared by hand'],
  },
] as const; // prettier-ignore
const where = ['Below', 'Above', 'Near', 'Beyond', 'On the way to', 'An hour from', 'Opposite', 'Downstream of'];
const when = ['this morning', 'since Sunday', 'after the storm', 'for the third year', 'as the warden had said', 'to our surprise'];

/** The first of a list more often than the second, and so on. */
function early<T>(random: Random, from: readonly T[]): T {
  return from[Math.floor(random.next() ** 2 * from.length)]!;
}

export function detail(random: Random): string {
  const { things, states } = random.pick(matters);
  const place = `${early(random, where)} ${random.pick(hutFirst)}`;
  const said = `${place} the ${early<string>(random, things)} ${random.pick<string>(states)}`;
  return random.chance(0.4) ? `${said}, ${random.pick(when)}.` : `${said}.`;
}
