import type { IndexRequest } from '@zesty-sieve/core';
import { scalar } from './data.ts';
import type { Focus } from './focus.ts';
import { valuesIn } from './values.ts';
import type { Random } from './random.ts';
import { setField, type Fields } from './reference/values.ts';
import type { CollectionName, Put, Step } from './world.ts';

const keys = [
  '@.a',
  '@.b',
  '@.n',
  '@.t',
  '@.k',
  '@.o.x',
  '@.o.y',
  '@.o',
  '@.id',
  '@.list',
  '@.tags',
  'fold(@.t)',
  '@.a + 1',
  'length(@.tags)',
  'coalesce(@.a, 0)',
  '$.a',
  '@["__proto__"]',
  '@["a.b"]',
  '@.list[0].f',
  'count(@.list[?@.f == $.a])',
];
const several = ['@.tags[*]', '@.list[*].f', '@.list[*].g', '@.list[*]', '@.list[?@.f == 1].g'];
const wheres = ['@.a', '@.a == 1', '@.n > 1', '@.o.x', '!@.b', '@.t == "a"', '@.a == 1 && @.b', '@.tags[?@ == 1]'];

/** An index of any form. */
export function index(random: Random, focus: Focus): IndexRequest {
  const about = random.chance(0.75) ? focus.fields : keys;
  const list = random.some(about, 3, 1).map((key) => key + random.pick(['', '', ' desc']));
  if (random.chance(0.25)) list[random.below(list.length)] = random.pick(several);
  return {
    keys: list,
    ...(random.chance(0.2) && { where: random.chance(0.7) ? random.pick(focus.conditions) : random.pick(wheres) }),
    ...(random.chance(0.1) && { unique: true }),
  };
}

/** What changes: documents come, are replaced, lose or get a field, go; indexes are built before, between and after. */
export function history(random: Random, focus: Focus, documents: Readonly<Record<CollectionName, readonly Fields[]>>): Step[] {
  const steps: Step[] = [];
  const lists: Record<CollectionName, (Fields | null)[]> = { c: [...documents.c], d: [...documents.d] };
  const build = () => steps.push({ kind: 'build', collection: random.chance(0.8) ? 'c' : 'd', index: index(random, focus) });
  const change = (): void => {
    const collection = random.chance(0.8) ? 'c' : 'd';
    const list = lists[collection];
    const values = valuesIn(documents[collection], random);
    const value = () => (random.chance(0.8) && values.length > 0 ? random.pick(values) : scalar(random));
    const positions = list.map((_, i) => i).filter((i) => list[i] !== null);
    const puts: Put[] = random.list(1, random.pick([1, 3, 12]), (): Put => {
      const position = random.chance(0.3) || positions.length === 0 ? list.length : random.pick(positions);
      const before = list[position] ?? null;
      if (before !== null && random.chance(0.25)) return { position, document: null };
      const made: Fields = before === null ? { id: `new${position}` } : { ...before };
      for (const name of random.some(['a', 'b', 'n', 't', 'k', 'tags', 'o'], 3, 1)) {
        if (random.chance(0.2)) delete made[name];
        else setField(made, name, name === 'tags' ? random.list(0, 3, value) : name === 'o' ? { x: value() } : value());
      }
      return { position, document: made };
    });
    // One put for each place, as a transaction has it.
    const last = new Map(puts.map((put) => [put.position, put]));
    for (const put of last.values()) list[put.position] = put.document;
    steps.push({ kind: 'apply', collection, puts: [...last.values()] });
  };
  for (let i = random.below(5); i > 0; i--) build();
  for (let i = random.pick([0, 0, 1, 4, 15]); i > 0; i--) {
    change();
    if (random.chance(0.2)) build();
    if (random.chance(0.05)) steps.push({ kind: 'reload' });
  }
  return steps;
}
