import { emptyDraft, draftsIn, writtenDrafts } from '../src/state/bench/drafts.ts';
import { placeOf, windowOf } from '../src/state/bench/draftsPlace.ts';
import { claimWindow, type Browser } from '../src/state/bench/ownWindow.ts';

/** A browser's storage: what is kept are its own properties, as in browsers. */
function storage(from: object = {}): Storage {
  const methods = {
    getItem(this: Record<string, string>, name: string) {
      return Object.hasOwn(this, name) ? this[name] : null;
    },
    setItem(this: Record<string, string>, name: string, text: string) {
      this[name] = text;
    },
    removeItem(this: Record<string, string>, name: string) {
      delete this[name];
    },
  };
  return Object.assign(Object.create(methods) as object, from) as Storage;
}

/** The locks of a browser, as far as they are used: one holder each, others wait in turn or until they give up. */
class Locks {
  private readonly holders = new Map<string, object>();
  private waiting: { readonly name: string; readonly window: object; readonly begin: () => void }[] = [];

  of(window: object): Browser['locks'] {
    const request = (name: string, ...given: unknown[]): Promise<unknown> => {
      const work = given.at(-1) as () => Promise<unknown>;
      const { signal } = (given.length > 1 ? given[0] : {}) as { signal?: AbortSignal };
      return new Promise((resolve, reject) => {
        const begin = (): void => {
          this.holders.set(name, window);
          void work().then(resolve, reject).finally(() => this.release(name));
        };
        const one = { name, window, begin };
        if (!this.holders.has(name)) return begin();
        this.waiting.push(one);
        signal?.addEventListener('abort', () => {
          if (!this.waiting.includes(one)) return;
          this.waiting = this.waiting.filter((other) => other !== one);
          reject(signal.reason as Error);
        });
      });
    };
    return { request, query: () => Promise.resolve({ held: [...this.holders.keys()].map((name) => ({ name })), pending: [] }) } as unknown as Browser['locks'];
  } // prettier-ignore

  /** A window that is closed gives back what it held. */
  close(window: object): void {
    for (const [name, holder] of this.holders) if (holder === window) this.release(name);
  }

  private release(name: string): void {
    this.holders.delete(name);
    const next = this.waiting.find((one) => one.name === name);
    this.waiting = this.waiting.filter((one) => one !== next);
    next?.begin();
  }
}

let local: Storage;
let locks: Locks;
beforeEach(() => {
  local = storage();
  locks = new Locks();
});

async function open(session = storage()) {
  const window = {};
  const own = await claimWindow({ local, session, locks: locks.of(window) });
  return { own, session, close: () => locks.close(window) };
}
let clock = 0;
const keep = (own: string, ...texts: readonly string[]): void => {
  const tabs = texts.map((text, i) => ({ id: String(i + 1), draft: { ...emptyDraft, text } }));
  local.setItem(placeOf(own), writtenDrafts({ tabs, tab: '1', recent: [own], at: ++clock }));
};
const texts = (own: string): string[] | undefined => draftsIn(local.getItem(placeOf(own)))?.tabs.map(({ draft }) => draft.text);

test('a window that is reloaded goes on with what was its own', async () => {
  const first = await open();
  keep(first.own, 'from huts\nlimit 3');
  first.close();
  const again = await open(first.session);
  expect([again.own, texts(again.own)]).toEqual([first.own, ['from huts\nlimit 3']]);
});

test('a second window begins with nothing, and neither writes over the other; a later one takes over what both have left', async () => {
  const first = await open();
  keep(first.own, 'from huts\nlimit 1', 'from trails');
  const second = await open();
  expect([second.own === first.own, texts(second.own)]).toEqual([false, undefined]);
  keep(second.own, 'from huts', 'from routes\nlimit 2', 'from huts\nlimit 1');
  expect(texts(first.own)).toEqual(['from huts\nlimit 1', 'from trails']);
  first.close();
  second.close();
  const third = await open();
  // Those of the one that was left last as they stood there; of the other what was written, once.
  expect(texts(third.own)).toEqual(['from huts', 'from routes\nlimit 2', 'from huts\nlimit 1']);
  expect([texts(first.own), texts(second.own)]).toEqual([undefined, undefined]);
  expect(draftsIn(local.getItem(placeOf(third.own)))?.recent).toEqual([second.own, first.own]);
});

test('what is left of a closed window comes to the next one, while others are open', async () => {
  const [first, second] = [await open(), await open()];
  keep(first.own, 'from a\nlimit 1');
  keep(second.own, 'from b\nlimit 2');
  second.close();
  const third = await open();
  expect([texts(first.own), texts(third.own)]).toEqual([['from a\nlimit 1'], ['from b\nlimit 2']]);
});

test('a copy of a window begins with a copy of its tabs', async () => {
  const first = await open();
  keep(first.own, 'from huts\nlimit 3');
  const copied = await open(storage(first.session));
  expect(copied.own).not.toBe(first.own);
  keep(copied.own, 'from huts\nlimit 4');
  expect([texts(first.own), texts(copied.own)]).toEqual([['from huts\nlimit 3'], ['from huts\nlimit 4']]);
});

test('a page that is reloaded waits for the one before it to be gone', async () => {
  const first = await open();
  keep(first.own, 'from huts\nlimit 3');
  const reloading = open(first.session);
  setTimeout(first.close, 30);
  expect((await reloading).own).toBe(first.own);
});

test('windows that are opened at once take over nothing twice', async () => {
  const closed = [await open(), await open(), await open()];
  closed.forEach(({ own }, i) => keep(own, `from huts\nlimit ${i}`));
  for (const { close } of closed) close();
  const opened = await Promise.all([open(), open(), open()]);
  expect(opened.flatMap(({ own }) => texts(own) ?? []).sort()).toEqual(['from huts\nlimit 0', 'from huts\nlimit 1', 'from huts\nlimit 2']);
});

test('what was kept before windows had names is taken over; what is of another database is left, and so is what is none', async () => {
  keep('', 'from huts\nlimit 3');
  local.setItem('zesty-sieve-drafts:0a1b attic', 'theirs');
  local.setItem('zesty-sieve-drafts:0a1b', 'cut off {');
  local.setItem('zesty-sieve-lessons', '{}');
  const { own } = await open();
  expect(texts(own)).toEqual(['from huts\nlimit 3']);
  expect(Object.keys(local).sort()).toEqual([placeOf(own), 'zesty-sieve-drafts:0a1b attic', 'zesty-sieve-lessons'].sort());
});

test('where there is no room, nothing of what is left is thrown away', async () => {
  const first = await open();
  keep(first.own, 'from huts\nlimit 3');
  first.close();
  const full = storage(local);
  Object.defineProperty(full, 'setItem', {
    value: () => {
      throw new Error('QuotaExceededError');
    },
  });
  const session = storage();
  await expect(claimWindow({ local: full, session, locks: locks.of({}) })).rejects.toThrow('Quota');
  expect(full.getItem(placeOf(first.own))).toContain('limit 3');
  // It is not told to be a window that has a place of its own.
  expect(Object.keys(session)).toEqual([]);
});

test.each([
  ['zesty-sieve-drafts', ''],
  ['zesty-sieve-drafts:0af9', '0af9'],
  ['zesty-sieve-drafts:0af9 attic', undefined],
  ['zesty-sieve-drafts attic', undefined],
  ['zesty-sieve-drafts-of-old', undefined],
  ['zesty-sieve-lessons', undefined],
])('%j is the place of %j', (place, window) => expect(windowOf(place)).toBe(window));
