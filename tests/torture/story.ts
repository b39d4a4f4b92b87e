import type { Json } from '@zesty-sieve/core/language';
import { collections } from './data.ts';
import { focusOf } from './focus.ts';
import { index } from './histories.ts';
import { change, question } from './questions.ts';
import { Random } from './random.ts';
import { changed } from './reference/changes.ts';
import { meaning } from './reference/stages.ts';
import { equal, setField, type Fields } from './reference/values.ts';
import { Served } from './served.ts';
import { sorted } from './asking.ts';

/** What a story has done and asked. */
export interface Told {
  writes: number;
  restarts: number;
  questions: number;
}

const now = '2026-02-03T04:05:06.789Z';
const open = { timeMs: 600_000, documentsRead: 1e9, memoryBytes: 1e9 };

/**
 * Documents come, change and go over HTTP, in every way that they can, with restarts in between; and questions are asked all
 * along, by index and by scan.
 * @returns what went wrong first; undefined where nothing did
 */
export async function story(seed: number, steps: number, told: Told): Promise<string | undefined> {
  const random = new Random(seed);
  const server = new Served();
  const first = collections(random, { middle: 0.3, large: 0 }).c.map((one, i): Fields => plain({ ...one, id: `c${i}` }));
  const focus = focusOf(random, first);
  const values = () => collections(random, { middle: 0, large: 0 }).c;
  /** The documents by their places; what was removed leaves a hole. */
  const model: (Fields | null)[] = [];
  const there = () => model.filter((one) => one !== null);
  const placeOf = (id: unknown) => model.findIndex((one) => one?.id === id);
  let undoable: { id: string; before: (Fields | null)[] } | undefined;
  let fresh = 0;

  const expectStatus = ({ status, body }: { status: number; body: Record<string, unknown> }, wanted: number): void => {
    if (status !== wanted) throw new Error(`${status} for ${wanted}: ${JSON.stringify(body).slice(0, 300)}`);
  };
  const made = (): Fields => plain({ ...(random.pick(values()) ?? {}), id: `n${fresh++}` });
  const write = async (): Promise<void> => {
    const present = there();
    const one = present.length === 0 ? undefined : random.pick(present);
    const kind = random.pick(['post', 'import', 'put', 'patch', 'delete', 'change', 'undo', 'index', 'drop'] as const);
    if (kind !== 'undo' && kind !== 'index' && kind !== 'drop') undoable = kind === 'change' ? undoable : undefined;
    if (kind === 'post') {
      const documents = random.list(1, 5, made);
      expectStatus(await server.call('POST', '/collections/c/documents', documents), 201);
      model.push(...documents);
    } else if (kind === 'import') {
      const documents = [...random.list(1, 20, made), ...(one === undefined ? [] : [plain({ ...made(), id: one.id })])];
      expectStatus(
        await server.call(
          'POST',
          '/collections/c/import?onDuplicate=replace',
          documents.map((document) => JSON.stringify(document)).join('\n'),
          'application/x-ndjson',
        ),
        200,
      );
      for (const document of documents) {
        const place = placeOf(document.id);
        if (place < 0) model.push(document);
        else model[place] = document;
      }
    } else if (kind === 'index') {
      const { status } = await server.call('POST', '/collections/c/indexes', { ...index(random, focus), unique: false });
      if (status >= 500) throw new Error(`an index gives ${status}`);
    } else if (kind === 'drop') {
      const { indexes } = (await server.call('GET', '/collections/c/indexes')).body as { indexes: { name: string }[] };
      const names = indexes.map(({ name }) => name).filter((name) => name !== 'identity');
      if (names.length > 2)
        expectStatus(await server.call('DELETE', `/collections/c/indexes/${encodeURIComponent(random.pick(names))}`), 204);
    } else if (kind === 'undo') {
      if (undoable === undefined) return;
      expectStatus(await server.call('POST', `/changes/${undoable.id}/undo`), 200);
      model.splice(0, model.length, ...undoable.before);
      undoable = undefined;
    } else if (kind === 'change') {
      const { lines, parameters } = change(random, present, focus);
      const text = ['from c', ...lines].join('\n');
      const answer = await server.call('POST', '/changes', { change: text, parameters });
      if (answer.status >= 500) throw new Error(`${text}: ${JSON.stringify(answer.body)}`);
      if (answer.status !== 200 || text.includes('now(')) return;
      const before = [...model];
      for (const { before: old, after } of changed(text, { data: { c: present }, parameters, now }))
        model[placeOf(old.id)] = after === undefined ? null : plain(after);
      undoable = { id: String(answer.body.changeId), before };
    } else if (one !== undefined) {
      const at = `/collections/c/documents/${encodeURIComponent(String(one.id))}`;
      const place = placeOf(one.id);
      if (kind === 'put') {
        const next = plain({ ...made(), id: one.id });
        expectStatus(await server.call('PUT', at, next), 200);
        model[place] = next;
      } else if (kind === 'patch') {
        const next = { ...one };
        setField(next, 'a', random.pick(first)?.a ?? 1);
        expectStatus(await server.call('PATCH', at, { a: next.a, b: null }, 'application/merge-patch+json'), 200);
        delete next.b;
        if (next.a === null) delete next.a;
        model[place] = plain(next);
      } else {
        expectStatus(await server.call('DELETE', at), 204);
        model[place] = null;
      }
    }
    told.writes++;
  };
  const ask = async (): Promise<string | undefined> => {
    const present = there();
    const { lines, parameters } = question(random, present, focus);
    const pipeline = ['from c', ...lines].join('\n');
    if (/ join |^join /m.test(pipeline) || pipeline.includes('\nsample')) return undefined;
    for (const more of [{}, { ways: 'full scan' }]) {
      const { status, body } = await server.call('POST', '/query', { pipeline, parameters, pageSize: 1_000, guards: open, ...more });
      if (status >= 500) return `${pipeline}\n${JSON.stringify(body)}`;
      if (status !== 200) return undefined;
      told.questions++;
      const wanted = meaning(pipeline, { data: { c: present }, parameters, now })?.slice(0, 1_000);
      const found = body.documents as Json[];
      if (wanted !== undefined && !equal(sorted(plain(wanted)), sorted(found)))
        return `${pipeline} ${JSON.stringify(parameters)}\nexpected ${JSON.stringify(wanted).slice(0, 600)}\nfound    ${JSON.stringify(found).slice(0, 600)}`;
    }
    return undefined;
  };

  try {
    await server.start();
    expectStatus(await server.call('POST', '/collections', { name: 'c' }), 201);
    expectStatus(
      await server.call('POST', '/collections/c/import', first.map((one) => JSON.stringify(one)).join('\n'), 'application/x-ndjson'),
      200,
    );
    model.push(...first);
    for (let i = 0; i < steps; i++) {
      await write();
      if (random.chance(0.06)) {
        await server.stop(random.pick(['SIGTERM', 'SIGKILL']));
        await server.start();
        told.restarts++;
      }
      for (let q = random.below(3); q > 0; q--) {
        const wrong = await ask();
        if (wrong !== undefined) return `seed ${seed}, step ${i}: ${wrong}`;
      }
    }
    const { body } = await server.call('POST', '/collections/c/check');
    return body.sound === true && body.documents === there().length ? undefined : `seed ${seed}: the check says ${JSON.stringify(body)}`;
  } catch (error) {
    return `seed ${seed}: ${(error as Error).stack}`;
  } finally {
    await server.remove();
  }
}

/** As JSON has it: −0 is 0 there. */
function plain<T extends Json>(value: T): T {
  return JSON.parse(JSON.stringify(value)) as T;
}
