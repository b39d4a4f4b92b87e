import type { APIRequestContext, Page } from '@playwright/test';
import { expect, test } from './app.ts';

/**
 * What comes later moves nothing that somebody may be about to press: every answer of the server is held back for another
 * while, and what the browser tells of shifts (Layout Instability, W3C draft) names no control. A click that lands where a
 * button has just been is lost, and nobody sees why.
 */
const views: readonly (readonly [name: string, address: string])[] = [
  ['bench', '/bench'],
  ...['documents', 'fields', 'load', 'change', 'history'].map((show) => [`data: ${show}`, `/data/huts?show=${show}`] as const),
  ['a kept view', '/data/fees_by_hut_and_month'],
  ['indexes', '/indexes/bookings'],
  ['search', '/search'],
  ['publish', '/publish/where-to-stay'],
  ['runs', '/runs'],
];

/** Rows of an answer come when they come, and the button that opens a tab stands after the last of them. */
const mayMove = '[role=table], [aria-label="Open pipelines"], [aria-label="New pipeline in a tab"]';

async function listen(page: Page): Promise<void> {
  await page.addInitScript((allowed) => {
    const controls = 'button, input, a[href], textarea, [role=tab], [role=combobox], [role=option]';
    const moved: string[] = [];
    Object.assign(window, { moved });
    const place = ({ x, y, width, height }: DOMRectReadOnly) => [x, y, width, height].map(Math.round).join(' ');
    new PerformanceObserver((list) => {
      for (const { sources } of list.getEntries() as unknown as { sources: { node: Node | null; previousRect: DOMRectReadOnly; currentRect: DOMRectReadOnly }[] }[])
        for (const { node, previousRect: before, currentRect: after } of sources) {
          const element = node instanceof Element ? node : node?.parentElement;
          if (element?.isConnected !== true || before.width === 0 || after.width === 0) continue;
          const control = element.closest(controls) ?? [...element.querySelectorAll(controls)].find((one) => one.closest(allowed) === null);
          if (control == null || control.closest(allowed) !== null) continue;
          moved.push(`${control.getAttribute('aria-label') ?? control.textContent}: ${place(before)} → ${place(after)}`);
        }
    }).observe({ type: 'layout-shift', buffered: true });
  }, mayMove);
} // prettier-ignore

/** Holds back every answer, each of them for another while, the same ones in every run. */
async function holdBack(page: Page, seed: number): Promise<() => number> {
  let state = seed;
  let underWay = 0;
  await page.route(/\/api\/(?!.*events)/, async (route) => {
    state = (state * 1_103_515_245 + 12_345) % 2_147_483_648;
    underWay++;
    await new Promise((resolve) => setTimeout(resolve, 100 + (state / 2_147_483_648) * 1_000));
    await route.continue().catch(() => undefined);
    underWay--;
  });
  return () => underWay;
}

/** Twenty more collections and views: what is there only where there is much may not push anything away either. */
async function addMany(request: APIRequestContext): Promise<() => Promise<void>> {
  const names = Array.from({ length: 20 }, (_, n) => `many${n}`);
  for (const name of names) {
    expect((await request.post('/api/collections', { data: { name } })).ok()).toBe(true);
    expect((await request.put(`/api/pipelines/${name}_seen`, { data: { pipeline: `from ${name}`, view: true } })).ok()).toBe(true);
  }
  return async () => {
    for (const name of names) {
      await request.delete(`/api/pipelines/${name}_seen`);
      await request.delete(`/api/collections/${name}`);
    }
  };
}

test('what comes later moves nothing that one may be about to press', async ({ page, request }) => {
  test.setTimeout(240_000);
  const removeThem = await addMany(request);
  await listen(page);
  const underWay = await holdBack(page, 3);
  for (const [name, address] of views) {
    await page.goto(address);
    await expect(page.getByRole('heading', { level: 1 })).toHaveCount(1);
    await expect.poll(async () => (underWay() === 0 ? (await page.waitForTimeout(700), underWay()) : 1), { timeout: 30_000 }).toBe(0);
    const moved = await page.evaluate(() => (window as unknown as { moved: string[] }).moved);
    expect.soft(moved, name).toEqual([]);
  }
  await removeThem();
});

test('the way to trace a document stays where it is when the counts of the conditions come', async ({ page, bench }) => {
  await page.goto('/');
  await bench.write('from huts\nwhere @.bunks > 20');
  const trace = page.getByRole('button', { name: 'Trace it' });
  await expect(page.getByText(/together \d+ of 120/)).toBeVisible();
  const there = await trace.boundingBox();
  await page.route('**/api/**', () => undefined);
  await page.reload();
  await bench.editor.click();
  await expect(page.getByText(/together/)).toBeHidden();
  expect(await trace.boundingBox()).toEqual(there);
});

test('what may be added after a line stands in one place, whatever the line', async ({ page, bench }) => {
  await page.goto('/');
  const add = page.getByRole('region', { name: 'Form of the stage' }).getByRole('button', { name: 'group by', exact: true });
  const places: (number | undefined)[] = [];
  for (const text of [
    'from huts',
    'from huts\nwhere @.bunks > 20',
    'from huts\njoin huts as other on other.id == @.id',
    'from huts\nwhere @.bunks >',
  ]) {
    await bench.write(text);
    places.push((await add.boundingBox())?.y);
  }
  expect(new Set(places).size).toBe(1);
});
