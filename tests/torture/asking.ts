import type { Engine, QueryRequest } from '@zesty-sieve/core';
import type { Json } from '@zesty-sieve/core/language';
import { keep, keptBeginnings } from './keptViews.ts';
import type { Random } from './random.ts';
import { changed } from './reference/changes.ts';
import { meaning } from './reference/stages.ts';
import { setField, type Fields } from './reference/values.ts';
import { now, type Case, type World } from './world.ts';

/** Two ways of asking the same that did not give the same. */
export interface Fault {
  readonly way: string;
  readonly expected: string;
  readonly found: string;
}

/** What was asked so far. */
export interface Tally {
  questions: number;
  refused: number;
  asked: number;
  compared: number;
  readonly ways: Map<string, number>;
}
export function newTally(): Tally {
  return { questions: 0, refused: 0, asked: 0, compared: 0, ways: new Map() };
}

type Rule = NonNullable<QueryRequest['withoutRules']>[number];
type Way = Exclude<NonNullable<QueryRequest['ways']>, readonly unknown[]>;

const rules: readonly Rule[] = ['where moved up', 'order moved up', 'limit moved up', 'order dropped', 'offset counted', 'unused fields dropped', 'used fields alone', 'unnest joined to group', 'index-only']; // prettier-ignore
const ways: readonly Way[] = ['full scan', 'index', 'index order', 'index only', 'union', 'intersection', 'aggregate', 'early order']; // prettier-ignore
const open = { timeMs: 600_000, documentsRead: 1e12, memoryBytes: 1e12 };

type Answered = { readonly rows: readonly Json[]; readonly result: Extract<Awaited<ReturnType<Engine['query']>>, { ok: true }>['value'] };

/** Rows, or why there are none: refused by the checks, by a way that there is not, or failed. */
async function ask(
  world: World,
  tally: Tally,
  pipeline: string,
  more: Partial<QueryRequest>,
): Promise<Answered | { readonly refused: string }> {
  tally.asked++;
  const answer = await world.engine.query({ pipeline, pageSize: 1e9, guards: open, ...more });
  if (answer.ok) return { rows: answer.value.documents, result: answer.value };
  return { refused: answer.problem.kind };
}

/** Everything that a row holds, in its order. */
const shown = (rows: readonly Json[]): string => JSON.stringify(rows);

/** The same with names sorted: in which order fields stand is no part of what a pipeline means. */
export function sorted(value: Json): Json {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== 'object' || value === null) return value;
  const made: Fields = {};
  for (const name of Object.keys(value).sort()) setField(made, name, sorted(value[name]));
  return made;
}

/** What is done row by row in the reference is done by every two rows for some stages: not for many. */
function canMean(lines: readonly string[], { c, d }: Record<'c' | 'd', readonly Fields[]>): boolean {
  const text = lines.join('\n');
  if (/^(gather |left )?join /m.test(text)) return c.length * Math.max(1, d.length) <= 12_000;
  if (/^(group|rank|dense|row)|distinct|sorted_of/m.test(text)) return c.length <= 700;
  return c.length <= 9_000;
}

/**
 * Asks one question in many ways and compares what comes.
 * @param random picks some of the ways; all are taken without it
 * @param eagerness how many times as many as usual
 */
export async function check(
  world: World,
  { lines, parameters }: Pick<Case, 'lines' | 'parameters'>,
  tally: Tally,
  random?: Random,
  eagerness = 1,
): Promise<Fault | undefined> {
  const pipeline = ['from c', ...lines].join('\n');
  const takes = (share: number) => random === undefined || random.chance(share * eagerness);
  tally.questions++;
  const plainly: Partial<QueryRequest> = { parameters, ways: ['full scan', 'hash join'], withoutRules: rules };
  const plain = await ask(world, tally, pipeline, plainly);
  if ('refused' in plain) {
    tally.refused++;
    return plain.refused === 'pipeline' ? undefined : { way: 'plain', expected: 'rows', found: plain.refused };
  }
  const expected = shown(plain.rows);

  const { data } = world;
  if (canMean(lines, data) && takes(0.8)) {
    const meant = meaning(pipeline, { data, parameters, now });
    if (meant !== undefined) {
      tally.compared++;
      tally.ways.set('reference', (tally.ways.get('reference') ?? 0) + 1);
      const [a, b] = [shown(meant.map(sorted)), shown(plain.rows.map(sorted))];
      if (a !== b) return { way: 'reference', expected: a, found: b };
    }
  }

  const compare = async (way: string, more: Partial<QueryRequest>, text = pipeline, wanted = expected): Promise<Fault | undefined> => {
    const answer = await ask(world, tally, text, { parameters, ...more });
    if ('refused' in answer) return answer.refused === 'way' ? undefined : { way, expected: wanted, found: answer.refused };
    tally.compared++;
    tally.ways.set(way, (tally.ways.get(way) ?? 0) + 1);
    const found = shown(answer.rows);
    return found === wanted ? undefined : { way, expected: wanted, found };
  };
  const tried: (() => Promise<Fault | undefined>)[] = [() => compare('as planned', {})];
  const add = (share: number, way: string, more: Partial<QueryRequest>) => takes(share) && tried.push(() => compare(way, more));

  add(0.3, 'as planned, again', {});
  const isJoined = lines.some((line) => /^(left |gather )?join /.test(line));
  if (isJoined) for (const way of ['hash join', 'index join'] as const) add(0.6, way, { ways: way });
  if (world.indexes.length > 0 || random === undefined) for (const way of ways) add(0.4, way, { ways: way });
  const names = world.indexes.filter(({ collection }) => collection === 'c').map(({ name }) => name);
  for (const name of names) {
    add(0.4, 'index insisted on', { useIndex: name });
    add(0.3, 'index in its order', { useIndex: name, ways: 'index order' });
    add(0.3, 'index in insertion order', { useIndex: name, ways: 'index' });
    add(0.1, 'index passed over', { ignoreIndexes: [name] });
    for (const other of names) {
      if (other <= name) continue;
      add(0.3, 'two indexes, intersection', { useIndex: [name, other], ways: 'intersection' });
      add(0.3, 'two indexes, union', { useIndex: [name, other], ways: 'union' });
    }
  }
  for (const { collection, name } of world.indexes)
    if (isJoined && collection === 'd') add(0.5, 'index join by one index', { useIndex: name, ways: 'index join' });
  for (const rule of rules) add(0.12, `without: ${rule}`, { withoutRules: [rule] });
  add(0.2, 'without rules', { withoutRules: rules });
  add(0.3, 'rows one by one', { batchRows: 1 });
  add(0.3, 'rows by seven', { batchRows: 7 });
  if (takes(0.5)) tried.push(() => unfused(world, tally, pipeline, parameters));

  if (takes(0.3)) {
    // A page of the whole is a part of it.
    const count = plain.rows.length;
    const offset = random === undefined ? Math.floor(count / 3) : random.below(count + 2);
    const size = random === undefined ? 5 : random.below(12);
    tried.push(() => compare('a page', {}, `${pipeline}\noffset ${offset}\nlimit ${size}`, shown(plain.rows.slice(offset, offset + size))));
  }
  if (takes(0.3))
    tried.push(async () => {
      world.engine.setViews(new Map([['v', { pipeline, parameters }]]));
      return (
        (await compare('a view', { parameters: {} }, 'from v')) ??
        compare('a view, limited', { parameters: {} }, 'from v\nlimit 3', shown(plain.rows.slice(0, 3)))
      );
    });
  if (takes(0.4)) tried.push(() => keptAnswers(world, tally, lines, parameters, random));
  if (takes(0.3)) tried.push(() => readsAsSeen(world, tally, pipeline, parameters));
  const [first] = lines;
  if (first?.startsWith('where ') && takes(0.4)) tried.push(() => partitioned(world, tally, first.slice(6), parameters));

  if (first?.startsWith('where ') && takes(0.3)) tried.push(() => shifted(world, tally, lines, parameters, random));

  for (const one of tried) {
    const fault = await one();
    if (fault !== undefined) return fault;
  }
  return undefined;
}

/** What a view answers whose rows are kept is what is answered without it. */
async function keptAnswers(
  world: World,
  tally: Tally,
  lines: readonly string[],
  parameters: Case['parameters'],
  random?: Random,
): Promise<Fault | undefined> {
  for (const { view, questions } of keptBeginnings(lines, random)) {
    const made = await ask(world, tally, view, { parameters });
    if ('refused' in made) continue;
    const letGo = keep(world, view, parameters, made.rows);
    try {
      for (const question of questions) {
        const open = await ask(world, tally, question, { parameters });
        const without = await ask(world, tally, question, { parameters, ignoreViews: ['kept'] });
        if ('refused' in without) continue;
        const isUsed = 'result' in open && open.result.sources.length > 0;
        const way = isUsed ? 'a kept view' : 'a kept view, passed over';
        tally.compared++;
        tally.ways.set(way, (tally.ways.get(way) ?? 0) + 1);
        const [expected, found] = [shown(without.rows), 'refused' in open ? open.refused : shown(open.rows)];
        if (expected !== found) return { way: `a kept view: ${view} for ${question}`, expected, found };
      }
    } finally {
      letGo();
    }
  }
  return undefined;
}

/** A change touches the documents that it means, and makes of them what it means, whichever way they are found. */
export async function checkChange(
  world: World,
  { lines, parameters }: Pick<Case, 'lines' | 'parameters'>,
  tally: Tally,
): Promise<Fault | undefined> {
  const text = ['from c', ...lines].join('\n');
  tally.questions++;
  tally.asked++;
  const answer = await world.engine.computeChange({ change: text, parameters, guards: open }, () => false);
  if (!answer.ok) {
    tally.refused++;
    return answer.problem.kind === 'pipeline' || answer.problem.kind === 'document'
      ? undefined
      : { way: 'change', expected: 'a change', found: answer.problem.kind };
  }
  tally.compared++;
  tally.ways.set('change', (tally.ways.get('change') ?? 0) + 1);
  const pair = ({ before, after }: { readonly before: Json; readonly after: Json | undefined }) => [sorted(before), sorted(after ?? null)];
  const expected = shown(changed(text, { data: world.data, parameters, now }).map(pair));
  const found = shown(answer.value.changed.map(pair));
  return expected === found ? undefined : { way: 'change', expected, found };
}

/** Rows for which a condition holds and those for which it does not are all rows, each once. */
async function partitioned(world: World, tally: Tally, condition: string, parameters: Case['parameters']): Promise<Fault | undefined> {
  const idsOf = async (text: string): Promise<string[] | undefined> => {
    const answer = await ask(world, tally, text, { parameters });
    return 'refused' in answer ? undefined : answer.rows.map((row) => JSON.stringify((row as Fields).id));
  };
  const sides = [await idsOf(`from c\nwhere ${condition}`), await idsOf(`from c\nwhere !(${condition})`)];
  const all = await idsOf('from c');
  if (sides[0] === undefined || sides[1] === undefined || all === undefined) return undefined;
  tally.compared++;
  const [expected, found] = [shown([...all].sort()), shown([...sides[0], ...sides[1]].sort())];
  return expected === found ? undefined : { way: 'partition', expected, found };
}

/** A document more for which the first condition does not hold changes nothing, as long as every line keeps the rows that come. */
async function shifted(
  world: World,
  tally: Tally,
  lines: readonly string[],
  parameters: Case['parameters'],
  random?: Random,
): Promise<Fault | undefined> {
  if (!lines.every((line) => /^(where|order|select|omit|compute|limit|offset) /.test(line))) return undefined;
  const pipeline = ['from c', ...lines].join('\n');
  const { c } = world.data;
  if (c.length === 0) return undefined;
  const made: Fields = { ...(random === undefined ? c[0] : random.pick(c)), id: 'one more' };
  if (meaning(`from c\n${lines[0]}`, { data: { c: [made], d: [] }, parameters, now })?.length !== 0) return undefined;
  const position = world.documents.c.length;
  const before = await ask(world, tally, pipeline, { parameters });
  await world.take({ kind: 'apply', collection: 'c', puts: [{ position, document: made }] });
  const after = await ask(world, tally, pipeline, { parameters });
  if (world.documents.c.length > position) await world.take({ kind: 'apply', collection: 'c', puts: [{ position, document: null }] });
  if ('refused' in before || 'refused' in after) return undefined;
  tally.compared++;
  tally.ways.set('one document more', (tally.ways.get('one document more') ?? 0) + 1);
  const [expected, found] = [shown(before.rows), shown(after.rows)];
  return expected === found ? undefined : { way: 'one document more', expected, found };
}

/** A loop of each step gives the rows that one loop of all gives, and reads and counts the same, line by line. */
async function unfused(world: World, tally: Tally, pipeline: string, parameters: Case['parameters']): Promise<Fault | undefined> {
  const told = async (fused: boolean): Promise<string> => {
    const answer = await ask(world, tally, pipeline, { parameters, fused });
    if ('refused' in answer) return answer.refused;
    const { cost, lines, plan, notes } = answer.result;
    const { documentsRead, indexEntriesRead } = cost;
    const counts = lines.map(({ line, rowsOut }) => ({ line, rowsOut }));
    const steps = (node: typeof plan): unknown => [node.step, node.rows, node.conditions, node.matches, node.inputs.map(steps)];
    return JSON.stringify({ documentsRead, indexEntriesRead, counts, steps: steps(plan), notes: notes.length, rows: answer.rows });
  };
  tally.compared++;
  tally.ways.set('a loop of each step', (tally.ways.get('a loop of each step') ?? 0) + 1);
  const [expected, found] = [await told(false), await told(true)];
  return expected === found ? undefined : { way: 'a loop of each step', expected, found };
}

/** The documents that a run says it has read are those that it has looked at. */
async function readsAsSeen(world: World, tally: Tally, pipeline: string, parameters: Case['parameters']): Promise<Fault | undefined> {
  // Planning looks at the sample; what is looked at from here on is what the run reads.
  world.engine.plan({ pipeline, parameters });
  let seen = 0;
  const stores = [...world.engine.collections.values()].map(({ store }) => store);
  const kept = stores.map(({ documents }) => documents);
  stores.forEach((store, s) => {
    const counting = new Proxy(kept[s], {
      get: (target, name) => {
        const found: unknown = Reflect.get(target, name);
        if (typeof name === 'string' && found !== undefined && /^\d+$/.test(name)) seen++;
        return found;
      },
    });
    Object.defineProperty(store, 'documents', { value: counting, configurable: true, writable: true });
  });
  try {
    const answer = await ask(world, tally, pipeline, { parameters });
    if ('refused' in answer) return { way: 'counted', expected: 'rows', found: answer.refused };
    tally.compared++;
    const read = answer.result.cost.documentsRead;
    return read === seen ? undefined : { way: 'documents read', expected: String(seen), found: String(read) };
  } finally {
    stores.forEach((store, s) => Object.defineProperty(store, 'documents', { value: kept[s], configurable: true, writable: true }));
  }
}
