import { setFlagsFromString } from 'node:v8';
import { runInNewContext } from 'node:vm';
import { Engine, readDefinition } from '@zesty-sieve/core';
import type { Fields } from './reference/values.ts';

/** What a run says that it held at most, and what the heap grew by at most. */
export interface Held {
  readonly asked: string;
  readonly told: number;
  readonly grown: number;
}

const count = 60_000;

/** Questions that hold each kind of thing that can be held. */
export const holding: readonly string[] = [
  'order by @.b',
  'order by concat(@.b, @.k) desc',
  'order by @.b\nlimit 20000',
  'select @.id, @.a, @.b',
  'select @.id, concat(@.b, "/", @.k) as t',
  'select [@.a, @.b] as p, {q: @.k} as o',
  'select @.list[*].f as fs, each(@.list, @.f + 1) as g',
  'compute t = upper(@.b)',
  'compute o.z = @.a',
  'omit @.o.x',
  'unnest @.list as e',
  'join d as p on p.k == @.k',
  'gather join d as p on p.k == @.k',
  'group by @.b measure n = count(), s = sum(@.n), c = collect(@.a)',
  'group by @.k, @.a measure s = sum(@.n), m = median(@.n), u = count_distinct(@.b)',
  'group by upper(@.b) as u measure l = last({a: @.a, b: @.b})',
  'group by @.o measure n = count()',
  'group all measure c = collect({a: @.a, t: concat(@.b, "x")})',
  'rank as r order by @.b',
  'row number as r partition by @.k order by @.b desc\nwhere @.r <= 2',
  'sample 40000 seed 1',
];

setFlagsFromString('--expose-gc');
const collect = runInNewContext('gc') as () => void;
function used(): number {
  collect();
  collect();
  const { heapUsed, arrayBuffers } = process.memoryUsage();
  return heapUsed + arrayBuffers;
}

const parsed = (document: Fields): Fields => JSON.parse(JSON.stringify(document)) as Fields;
const later = () => new Promise((resolve) => setTimeout(resolve, 5));
const guards = { timeMs: 1e6, documentsRead: 1e12, memoryBytes: 1e12 };

/** Runs a question and looks at the heap whenever it lets others work. Best in a process of its own. */
export async function heldBy(asked: string): Promise<Held> {
  let look = (): void => undefined;
  const engine = new Engine({ pause: () => Promise.resolve(look()), newId: () => String(Math.random()), now: () => new Date() });
  const c = engine.define('c', '@.id').store;
  for (let i = 0; i < count; i++)
    c.put(i, parsed({ id: `c${i}`, a: i % 17, b: `text ${(i * 7_919) % count}`, k: `k${i % 3_000}`, n: i * 1.5, o: { x: i % 7, y: `why ${i}` }, list: [{ f: i % 5, g: 'gee' }, { f: i % 3 }], tags: ['a', 'b'] })); // prettier-ignore
  const d = engine.define('d', '@.id').store;
  for (let i = 0; i < 3_000; i++) d.put(i, parsed({ id: `d${i}`, k: `k${i}`, name: `name ${i}` }));
  await engine.collections.get('c')?.buildIndex(readDefinition({ keys: ['@.a', '@.b'] }), () => Promise.resolve());
  const pipeline = `from c\n${asked}`;
  // Functions are compiled, and what the first run leaves behind is gone.
  await engine.query({ pipeline: `${pipeline}\nlimit 100`, guards, pageSize: 0 });
  await later();
  await engine.query({ pipeline: 'from d\nlimit 1', pageSize: 0 });
  await later();
  const before = used();
  let grown = 0;
  look = () => void (grown = Math.max(grown, used() - before));
  const answer = await engine.query({ pipeline, guards, pageSize: 0 });
  look();
  if (!answer.ok) throw new Error(`${pipeline}: ${answer.problem.message}`);
  return { asked, told: answer.value.cost.memoryBytes, grown };
}
