import { topicOf, type Topic } from './topic.ts';

test.each<[string, Topic]>([
  ['from huts', 'look'],
  ['from huts\nselect @.name', 'look'],
  ['from huts\norder by @.name\nlimit 3\nselect @.name', 'look'],
  ['from huts\ncompute perBed = @.fee / @.bunks\norder by @.perBed', 'shape'],
  ['from huts\norder by @.name\noffset 60\nlimit 3', 'order and page'],
  ['from bookings\nwhere @.status == "late"\norder by @.id\nlimit 20', 'ask'],
  ['from huts\nwhere @.bunks > 3', 'ask'],
  ['from bookings\nwhere @.nights[?@.fee > 60]\nselect @.id', 'arrays'],
  ['from huts\norder by avg_of(@.ratings[*].score) desc', 'arrays'],
  ['from bookings\nunnest @.nights as night', 'arrays'],
  ['from bookings\njoin huts as hut on hut.id == @.hutId\nwhere @.hut.bunks > 3', 'join'],
  ['from bookings\njoin huts as hut on hut.id == @.hutId\ngroup by @.hut.region measure n = count()\norder by @.n', 'group'],
  ['from huts\noff group all measure n = count()', 'look'],
  ['from reports\nbest 3 by relevance(@.text, "bridge") as s', 'search'],
  ['from reports\nwhere mentions_any(@.text, "bridge")', 'search'],
  ['', 'look'],
  ['from huts\nnonsense', 'look'],
])('%j is about %s', (pipeline, topic) => expect(topicOf(pipeline)).toBe(topic));
