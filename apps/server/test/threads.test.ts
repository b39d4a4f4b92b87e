import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { ServerProblem } from '../src/problem.ts';
import { CancelFlag } from '../src/threads/cancelFlag.ts';
import { handOver } from '../src/threads/messages.ts';
import { Thread, type ThreadOptions } from '../src/threads/thread.ts';

interface Sample {
  add: (a: number, b: number) => number;
  bytes: (given: Uint8Array) => number;
  once: () => string | null;
  fail: () => void;
  refuse: () => void;
  askBack: (ask: (n: number) => Promise<number>, n: number) => number;
  keep: (ask: (n: number) => number) => void;
  askKept: () => number;
  unreadable: () => unknown;
  nested: (levels: number) => unknown;
  later: (ms: number, failure?: string) => string;
  stall: () => void;
  block: () => void;
  patient: (flag: SharedArrayBuffer) => string;
  exit: () => void;
}

let begun = 0;
const made = (begin: ThreadOptions<Sample>['begin']) =>
  new Thread<Sample>({
    name: 'sample',
    url: pathToFileURL(join(__dirname, 'faulty/sample.mjs')),
    heapMegabytes: 64,
    youngMegabytes: 16,
    begin,
    stuckMs: { cancelled: 500, otherwise: 2_000 },
  });
const thread = made(async (service) => void (begun = await service.add(begun, 1)));
afterAll(() => thread.close());

const problemOf = (work: Promise<unknown>) =>
  work.then(
    () => 'answered',
    (error: unknown) => (error instanceof ServerProblem ? error.problem : error),
  );

test('a call gives what the method gives, and asks back as long as it lasts', async () => {
  expect(await thread.call((service) => service.add(2, 3))).toBe(5);
  expect(await thread.call((service) => service.askBack((n) => Promise.resolve(n + 1), 20))).toBe(42);
  await thread.call((service) => service.keep((n) => n));
  await expect(thread.call((service) => service.askKept())).rejects.toThrow('this call has been answered');
  expect(await thread.call((service) => service.once())).toBeNull();
  expect(await thread.call((service) => service.once(), { once: { key: 'k', fingerprint: 'f' } })).toBe('k');
});

test('bytes that are handed over are not copied', async () => {
  const bytes = new Uint8Array(1_000);
  expect(await thread.call((service) => service.bytes(handOver(bytes)))).toBe(1_000);
  expect(bytes.length).toBe(0);
});

test('failures come back as what they are', async () => {
  const failed = (await problemOf(thread.call((service) => service.fail()))) as Error & { code: string };
  expect([failed.name, failed.message, failed.code]).toEqual(['TypeError', 'no', 'E_NO']);
  expect(await problemOf(thread.call((service) => service.refuse()))).toMatchObject({
    type: '/problems/unique',
    status: 422,
    identity: 'a',
  });
  const asked = thread.call((service) => service.askBack(() => Promise.reject(new ServerProblem('/cancelled', 'Enough.')), 1));
  expect(await problemOf(asked)).toMatchObject({ type: '/problems/cancelled' });
  expect(await problemOf(thread.call((service) => service.unreadable()))).toMatchObject({ name: 'DataCloneError' });
});

test('an answer that cannot be read on this side is a failure, and is waited for no longer', async () => {
  expect(await problemOf(thread.call((service) => service.nested(20_000)))).toMatchObject({
    type: '/problems/restarted',
    detail: expect.stringMatching(/^The sample sent what cannot be read/) as string,
  });
  expect(await thread.call((service) => service.add(2, 3))).toBe(5);
});

test('nothing is kept of a call that has settled', async () => {
  for (let i = 0; i < 100; i++) await thread.call((service) => service.askBack((n) => Promise.resolve(n), i));
  await problemOf(thread.call((service) => service.fail()));
  expect(thread.load).toBe(0);
});

test('a thread that ends tells those that wait, and begins anew', async () => {
  const waiting = problemOf(thread.call((service) => service.stall()));
  const before = begun;
  expect(await problemOf(thread.call((service) => service.exit()))).toMatchObject({ type: '/problems/restarted' });
  expect(await waiting).toMatchObject({ type: '/problems/restarted' });
  expect(await thread.call((service) => service.add(1, 1))).toBe(2);
  expect([begun, thread.load]).toEqual([before + 1, 0]);
});

test('a call beyond its limit is told so', async () => {
  const slow = await problemOf(thread.call((service) => service.stall(), { limitMs: 300 }));
  expect(slow).toMatchObject({ detail: 'The sample took longer than 0 s for stall, and begins anew.' });
  expect(await thread.call((service) => service.add(1, 1))).toBe(2);
});

test('a call that may be waiting for one that takes long waits on', async () => {
  const restarts = thread.restarts;
  const flag = new CancelFlag();
  const long = thread.call((service) => service.patient(flag.buffer), { isLong: true });
  const waiting = problemOf(thread.call((service) => service.stall(), { limitMs: 200 }));
  await new Promise((resolve) => setTimeout(resolve, 700));
  expect(thread.restarts).toBe(restarts);
  flag.cancel();
  expect(await long).toBe('cancelled');
  expect(await waiting).toMatchObject({ type: '/problems/restarted' });
});

test('what is cancelled is waited for while it looks, or waits for its turn; only what is stuck ends the thread', async () => {
  const flag = new CancelFlag();
  const restarts = thread.restarts;
  const patient = thread.call((service) => service.patient(flag.buffer), { cancel: flag });
  const stalled = thread.call((service) => service.stall(), { cancel: flag, limitMs: 60_000 });
  stalled.catch(() => undefined);
  flag.cancel();
  expect(await patient).toBe('cancelled');
  await new Promise((resolve) => setTimeout(resolve, 800));
  expect(thread.restarts).toBe(restarts);
  const stuck = problemOf(thread.call((service) => service.block(), { cancel: flag }));
  expect(await stuck).toMatchObject({ detail: expect.stringMatching(/The sample was stuck/) as string });
  expect(thread.restarts).toBe(restarts + 1);
  expect(await problemOf(thread.call((service) => service.block()))).toMatchObject({
    detail: expect.stringMatching(/stuck for [23] s/) as string,
  });
});

test('what is under way when it is closed comes to its end or is told that it was closed; nothing new is taken', async () => {
  const other = made(() => Promise.resolve());
  const underWay = [
    other.call((service) => service.later(50)),
    problemOf(other.call((service) => service.later(100, 'the handle is closed'))),
    problemOf(other.call((service) => service.refuse())),
    problemOf(other.call((service) => service.stall())),
  ];
  await other.started();
  await new Promise((resolve) => setTimeout(resolve, 10));
  const closing = other.close((service) => service.later(300));
  const isClosed = { status: 503, detail: 'The sample has been closed.' };
  expect(await problemOf(other.call((service) => service.add(1, 1)))).toMatchObject(isClosed);
  await closing;
  const told = await Promise.all(underWay);
  expect(told[0]).toBe('done');
  expect(told.slice(1)).toMatchObject([isClosed, { detail: 'There is one already.' }, isClosed]);
});

test('it is not waited for longer than is said that it tidies up', async () => {
  const other = made(() => Promise.resolve());
  await other.started();
  const before = Date.now();
  await other.close((service) => service.stall() as Promise<never>, 50);
  expect(Date.now() - before).toBeLessThan(1_500);
});
