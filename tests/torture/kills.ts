import { Random } from './random.ts';
import { Served, type Answer } from './served.ts';

export interface KillsTold {
  kills: number;
  acknowledged: number;
  /** Writes of which no answer came: found whole, and not found. */
  whole: number;
  none: number;
  planted: number;
  /** How often the process ended by itself, by a fault that was planted. */
  ended: number;
}

const parts = 8;
const documentsEach = 1_500;

interface Document {
  readonly id: string;
  readonly part: number;
  readonly v: number;
  readonly note: string;
}

/** A write of documents that no other touches meanwhile, so that what it has done can be told by its mark. */
interface Write {
  readonly mark: number;
  readonly kind: string;
  readonly send: () => Promise<Answer>;
  /** The documents that it puts, by identity; null takes one away. */
  readonly puts: ReadonlyMap<string, Document | null>;
  answer?: Answer;
}

const ndjson = 'application/x-ndjson';
const faults = [
  ['storage', 'insert'], ['storage', 'load'], ['storage', 'makeChange'], ['storage', 'addIndex'], ['engine', 'apply'], ['engine', 'refresh'],
  ['engine', 'applyChange'], ['engine', 'query'], ['engine', 'createIndex'], ['storage', 'keepRuns'], ['storage', 'collections'],
] as const; // prettier-ignore

/**
 * Kills a server at random moments while documents come, change and go, indexes are built, and collections are loaded, with threads
 * that fail now and then; looks after each restart that every acknowledged write is there, in the file, by scan and by index, and each of
 * the others wholly or not at all.
 * @returns what went wrong first; undefined where nothing did
 */
export async function kills(seed: number, rounds: number, told: KillsTold, say: (line: string) => void): Promise<string | undefined> {
  const random = new Random(seed);
  const server = new Served();
  const model = new Map<string, Document>();
  const indexed = new Set<string>();
  let mark = 0;
  const text = () => 'words '.repeat(1 + random.below(20));
  const of = (part: number) => [...model.values()].filter((one) => one.part === part);
  const lines = (documents: readonly Document[]) => documents.map((one) => JSON.stringify(one)).join('\n');

  const writeOf = (part: number): Write => {
    const v = ++mark;
    const kind = random.pick(['import', 'import', 'insert', 'change', 'change', 'delete', 'replace'] as const);
    const present = of(part);
    const changed = (documents: readonly Document[], make: (one: Document) => Document | null) =>
      new Map(documents.map((one) => [one.id, make(one)]));
    if (kind === 'import' || kind === 'insert') {
      // As many as were lost by deletes, and some that are there already.
      const old = kind === 'import' ? present.filter(() => random.chance(0.6)).map((one): Document => ({ ...one, v, note: text() })) : [];
      const room = kind === 'import' ? Math.max(0, documentsEach - present.length) : 1 + random.below(20);
      const fresh = Array.from({ length: room }, (_, i): Document => ({ id: `${part}-${v}-${i}`, part, v, note: text() }));
      const all = [...old, ...fresh];
      const puts = new Map(all.map((one) => [one.id, one]));
      if (kind === 'insert') return { mark: v, kind, puts, send: () => server.tried('POST', '/collections/c/documents', all) };
      return { mark: v, kind, puts, send: () => server.tried('POST', '/collections/c/import?onDuplicate=replace', lines(all), ndjson) };
    }
    if (kind === 'change')
      return { mark: v, kind, puts: changed(present, (one) => ({ ...one, v })), send: () => server.tried('POST', '/changes', { change: `from c\nwhere @.part == ${part}\nset @.v = ${v}` }) }; // prettier-ignore
    if (kind === 'delete') {
      const most = random.below(4);
      const gone = present.filter((one) => one.v % 4 === most);
      return { mark: v, kind, puts: changed(gone, () => null), send: () => server.tried('POST', '/changes', { change: `from c\nwhere @.part == ${part} && @.v % 4 == ${most}\ndelete` }) }; // prettier-ignore
    }
    const some = present.filter(() => random.chance(0.1)).slice(0, 50).map((one): Document => ({ ...one, v, note: text() })); // prettier-ignore
    return {
      mark: v,
      kind,
      puts: new Map(some.map((one) => [one.id, one])),
      send: () => server.tried('PUT', '/collections/c/documents', some),
    };
  };

  const settle = (write: Write): void => {
    for (const [id, one] of write.puts) {
      if (one === null) model.delete(id);
      else model.set(id, one);
    }
  };
  const sorted = (documents: readonly Document[]) => [...documents].sort((a, b) => (a.id < b.id ? -1 : 1)).map((one) => JSON.stringify([one.id, one.part, one.v, one.note])); // prettier-ignore
  const read = async (path: string): Promise<Document[]> => {
    const { status, text: body } = await server.call('GET', path);
    if (status !== 200) throw new Error(`${path} gives ${status}: ${body.slice(0, 300)}`);
    return body.trim() === '' ? [] : body.trim().split('\n').map((line) => JSON.parse(line) as Document); // prettier-ignore
  };
  const asked = async (pipeline: string, more: object): Promise<Document[]> => {
    const { status, body } = await server.call('POST', '/query', { pipeline, pageSize: 0, guards: { timeMs: 60_000, memoryBytes: 1e9, documentsRead: 1e9 }, ...more }); // prettier-ignore
    if (status !== 200) throw new Error(`${pipeline} ${JSON.stringify(more)} gives ${status}: ${JSON.stringify(body).slice(0, 300)}`);
    return read(`/runs/${String(body.runId)}/rows.ndjson`);
  };
  const differing = (title: string, wanted: readonly string[], found: readonly string[]): void => {
    if (wanted.length === found.length && wanted.every((one, i) => one === found[i])) return;
    const [missing, more] = [wanted.filter((one) => !found.includes(one)), found.filter((one) => !wanted.includes(one))];
    throw new Error(`${title}: ${wanted.length} expected and ${found.length} found; missing ${missing.slice(0, 3).join(' ')}; more ${more.slice(0, 3).join(' ')}`); // prettier-ignore
  };

  /** Takes what came of writes without an answer from the file, and holds everything against it. */
  const hold = async (writes: readonly Write[]): Promise<void> => {
    const stored = new Map((await read('/collections/c/export')).map((one) => [one.id, one]));
    for (const write of writes) {
      const isAcknowledged = write.answer !== undefined && write.answer.status >= 200 && write.answer.status < 300;
      if (isAcknowledged) {
        told.acknowledged++;
        settle(write);
        continue;
      }
      const status = write.answer?.status ?? 0;
      if (status >= 400 && status < 500)
        throw new Error(`${write.kind} gives ${status}: ${JSON.stringify(write.answer?.body).slice(0, 300)}`);
      const isThere = ([id, one]: [string, Document | null]) =>
        one === null ? !stored.has(id) : JSON.stringify(stored.get(id)) === JSON.stringify(one);
      const found = [...write.puts].filter(isThere).length;
      const before = [...write.puts].filter(([id, one]) =>
        one === null ? !model.has(id) : JSON.stringify(model.get(id)) === JSON.stringify(one),
      ).length;
      if (found === write.puts.size) {
        if (write.puts.size > 0) told.whole++;
        settle(write);
      } else if (found === before) told.none++;
      else throw new Error(`of ${write.kind} ${write.mark}, ${found} of ${write.puts.size} documents are there`);
    }
    const wanted = sorted([...model.values()]);
    differing('in the file', wanted, sorted([...stored.values()]));
    differing('by scan', wanted, sorted(await asked('from c', { ways: 'full scan' })));
    const { indexes } = (await server.call('GET', '/collections/c/indexes')).body as { indexes: { name: string }[] };
    const names = new Set(indexes.map(({ name }) => name));
    for (const name of indexed) if (!names.has(name)) throw new Error(`the index ${name} is not there`);
    for (const name of names) if (name !== 'identity') indexed.add(name);
    if (names.has('v')) differing('by the index v', wanted, sorted(await asked('from c\nwhere @.v >= 0', { useIndex: 'v' })));
    if (names.has('part')) {
      const rows = await Promise.all(
        Array.from({ length: parts }, (_, part) => asked(`from c\nwhere @.part == ${part}`, { useIndex: 'part' })),
      );
      differing('by the index part', wanted, sorted(rows.flat()));
    }
    const [one] = model.keys();
    if (one !== undefined && (await asked(`from c\nwhere @.id == "${one}"`, { ways: 'index' })).length !== 1)
      throw new Error(`${one} is not found by its identity`);
  };

  try {
    await server.start();
    await server.call('POST', '/collections', { name: 'c' });
    const first = Array.from({ length: parts * documentsEach }, (_, i): Document => ({ id: `d${i}`, part: i % parts, v: 0, note: text() }));
    await server.call('POST', '/collections/c/import', lines(first), ndjson);
    for (const one of first) model.set(one.id, one);
    for (let round = 0; round < rounds; round++) {
      // Some begin with a collection that is to be loaded, and some with one that is there.
      const isFaulty = round % 3 === 2;
      if (!server.isRunning) await server.start(isFaulty ? 'faulty' : 'plain');
      const busy = Array.from({ length: parts }, (_, part) => part).filter(() => random.chance(0.4));
      const writes = busy.map(writeOf);
      if (isFaulty) {
        const [service, method] = random.pick(faults);
        server.plant({ service, method, when: random.pick(['before', 'after']), what: random.pick(['fail', 'die', 'stall']) });
        told.planted++;
      }
      const others: Promise<Answer>[] = [server.tried('POST', '/query', { pipeline: 'from c\ngroup by @.part measure n = count()' })];
      const index = random.pick(['v', 'part', 'note'] as const);
      let dropped: Promise<void> | undefined;
      if (random.chance(0.4) && indexed.has(index)) {
        indexed.delete(index);
        dropped = server.tried('DELETE', `/collections/c/indexes/${index}`).then(() => undefined);
      } else if (random.chance(0.6))
        others.push(server.tried('POST', '/collections/c/indexes', { keys: [`@.${index}`] }).then((answer) => (answer.status === 201 && indexed.add(index), answer))); // prettier-ignore
      const sending = writes.map(async (write) => {
        write.answer = await write.send();
      });
      const all = Promise.all([...sending, ...others, dropped]);
      if (isFaulty && random.chance(0.5)) {
        await Promise.race([all, new Promise((resolve) => setTimeout(resolve, 15_000))]);
        if (!server.isRunning) told.ended++;
      } else {
        await new Promise((resolve) => setTimeout(resolve, random.below(random.chance(0.3) ? 2_000 : 500)));
      }
      await server.stop('SIGKILL');
      told.kills++;
      await all;
      server.clearFault();
      await server.start();
      await hold(writes);
      if (round % 20 === 19) say(`${round + 1} kills: ${told.acknowledged} writes acknowledged, ${told.whole + told.none} not, of which ${told.whole} are there whole; ${model.size} documents`); // prettier-ignore
      // The next round begins with the collection in memory, or with none.
      if (random.chance(0.5)) await server.stop('SIGKILL');
      if ((round + 1) % 3 === 2) await server.stop('SIGKILL');
    }
    const { body } = await server.isRunning ? await server.call('POST', '/collections/c/check') : (await server.start(), await server.call('POST', '/collections/c/check')); // prettier-ignore
    return body.sound === true && body.documents === model.size ? undefined : `the check says ${JSON.stringify(body)}`;
  } catch (error) {
    return `seed ${seed}: ${(error as Error).stack}`;
  } finally {
    await server.remove();
  }
}
