import type { Page } from '@playwright/test';
import axe, { type AxeResults } from 'axe-core';
import { expect, test, type Bench } from './app.ts';

/** What axe finds against WCAG 2.1, levels A and AA; what is dimmed since the text has changed is not held to contrast. */
async function faults(page: Page): Promise<readonly string[]> {
  await page.evaluate(axe.source);
  const { violations } = await page.evaluate(async (): Promise<AxeResults> => {
    const { axe: run } = globalThis as unknown as { axe: typeof axe };
    return run.run(
      { exclude: [['[data-outdated]']] },
      { selectors: false, resultTypes: ['violations'], runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'] },
    );
  });
  return violations.map(({ id, help, nodes }) => `${id}: ${help}\n${nodes.map(({ html }) => html.slice(0, 200)).join('\n')}`);
}

type View = readonly [name: string, address: string, open?: (page: Page, bench: Bench) => Promise<void>];

const question = 'from bookings\nwhere @.hutId == "h-022"\norder by @.arrivesOn desc\nlimit 20';
const shown = (name: string) => async (page: Page, bench: Bench) => {
  await bench.write(question);
  await bench.run();
  await expect(bench.cost).toContainText('to return 20');
  await page.getByRole('button', { name, exact: true }).click();
};

const views: readonly View[] = [
  ['a result', '/bench', shown('Table')],
  ['its documents', '/bench', shown('Documents')],
  ['its shape', '/bench', shown('Shape')],
  ['its plan', '/bench', shown('Plan')],
  [
    'a chart',
    '/bench',
    async (page, bench) => {
      await bench.write('from huts\ngroup by @.region measure huts = count()');
      await page.getByRole('button', { name: 'Chart', exact: true }).click();
      await expect(page.locator('svg.recharts-surface').first()).toBeVisible();
    },
  ],
  [
    'an error with its mend',
    '/bench',
    async (page, bench) => {
      await bench.write('from bookings\nwhere @.hutId = "h-022"\norder by');
      await expect(page.locator('.zs-finding.is-error').first()).toBeVisible();
    },
  ],
  [
    'the saved pipelines',
    '/bench',
    async (page) => {
      await page.keyboard.press('Control+o');
      await expect(page.getByRole('menuitem', { name: /^Where to stay/ })).toContainText('published');
    },
  ],
  [
    'saving a view whose rows are kept',
    '/bench',
    async (page, bench) => {
      await bench.write('from bookings\ngroup by @.hutId measure n = count()');
      await page.getByRole('button', { name: 'Save', exact: true }).click();
      const dialog = page.getByRole('dialog', { name: 'Save the pipeline' });
      await dialog.getByLabel(/^A view/).check();
      await expect(dialog.getByLabel('Its rows')).toBeVisible();
    },
  ],
  [
    'a lesson',
    '/bench',
    async (page) => {
      const begin = page.getByRole('button', { name: 'First lesson' });
      const lesson = page.getByRole('region', { name: 'Lesson' });
      await expect(begin.or(lesson).first()).toBeVisible();
      if (await begin.isVisible()) await begin.click();
      await expect(lesson).toContainText('Look at documents');
    },
  ],
  [
    'the menu of databases',
    '/bench',
    async (page) => {
      // A button that has just become one that can be pressed takes its colour over a quarter of a second.
      await expect(page.getByRole('table', { name: 'Output' })).toBeVisible();
      await page.getByRole('button', { name: /^Database / }).click();
      await expect(page.getByRole('menuitem', { name: 'New database' })).toBeVisible();
    },
  ],
  [
    'a search',
    '/search?in=reports',
    async (page) => {
      await page.getByRole('textbox').first().fill('broken bridge');
      await page.keyboard.press('Enter');
      await expect(page.getByText(/^Read /).first()).toBeVisible();
    },
  ],
  [
    'a publication',
    '/publish/where-to-stay',
    async (page) => void (await expect(page.getByRole('tab', { name: 'Try it out' })).toBeVisible()),
  ],
  ['a kept view', '/data/fees_by_hut_and_month', async (page) => void (await expect(page.getByTestId('view-state')).toBeVisible())],
  [
    'the jump list',
    '/bench',
    async (page) => {
      await page.keyboard.press('Control+K');
      await expect(page.getByRole('dialog', { name: 'Jump to' })).toBeVisible();
    },
  ],
  ...['documents', 'fields', 'load', 'change', 'history'].map((show): View => [
    `data: ${show}`,
    `/data/huts?show=${show}`,
    async (page) => {
      await expect(page.getByText('120 documents').first()).toBeVisible();
    },
  ]),
  [
    'indexes with a what-if',
    '/indexes/bookings',
    async (page) => {
      await page.getByLabel('Keys').fill('@.status');
      await page.getByRole('button', { name: 'What if?' }).click();
      await expect(page.getByRole('status').first()).toBeVisible();
    },
  ],
  ['runs', '/runs', async (page) => void (await expect(page.getByRole('table', { name: 'Runs' })).toBeVisible())],
  [
    'a run',
    '/runs?text=h-022',
    async (page) => {
      await page.getByRole('table', { name: 'Runs' }).getByRole('row').nth(1).click();
      await expect(page.getByLabel('Compare with')).toBeVisible();
    },
  ],
];

for (const colorScheme of ['light', 'dark'] as const) {
  test(`every view can be read and named in the ${colorScheme} appearance`, async ({ page, bench }) => {
    test.setTimeout(300_000);
    await page.emulateMedia({ colorScheme, reducedMotion: 'reduce' });
    for (const [name, address, open] of views) {
      await page.goto(address);
      await expect(page.getByRole('heading', { level: 1 })).toHaveCount(1);
      await open?.(page, bench);
      expect.soft(await faults(page), name).toEqual([]);
    }
  });
}

/** Controls that nobody can reach: beyond the edge, and in nothing that scrolls. */
const outOfReach = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const scrolls = (element: Element | null): boolean =>
      element !== null && (/auto|scroll/.test(getComputedStyle(element).overflowX) || scrolls(element.parentElement));
    return [...document.querySelectorAll('button, input, a, [role="tab"]')]
      .filter((one) => one.checkVisibility() && !scrolls(one.parentElement))
      .filter((one) => one.getBoundingClientRect().right > innerWidth + 1 || one.getBoundingClientRect().left < -1)
      .map((one) => one.getAttribute('aria-label') ?? one.textContent ?? one.tagName);
  });

test('every view fits into 1024 pixels: nothing is cut off, and the page does not scroll sideways', async ({ page, bench }) => {
  test.setTimeout(300_000);
  await page.setViewportSize({ width: 1024, height: 700 });
  for (const [name, address, open] of views) {
    await page.goto(address);
    await expect(page.getByRole('heading', { level: 1 })).toHaveCount(1);
    await open?.(page, bench);
    expect.soft(await page.evaluate(() => document.documentElement.scrollWidth), name).toBeLessThanOrEqual(1024);
    expect.soft(await outOfReach(page), name).toEqual([]);
  }
});

test('the appearance is chosen, and stays over a reload; text and its undo stay through the change', async ({ page, bench }) => {
  await page.emulateMedia({ colorScheme: 'light' });
  await page.goto('/bench');
  await bench.write('from huts');
  await bench.editor.pressSequentially('\nlimit 3');
  const ground = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
  const light = await ground();
  const choose = async (name: string) => {
    await page.getByRole('button', { name: 'Appearance' }).click();
    await page.getByRole('menuitemradio', { name }).click();
  };
  await choose('Dark');
  await expect.poll(ground).not.toBe(light);
  const dark = await ground();
  await bench.editor.press('Control+Z');
  await expect(bench.editor).not.toContainText('limit 3');
  await expect(bench.editor).toContainText('from huts');
  await page.reload();
  expect(await ground()).toBe(dark);
  await choose('As the system');
  await expect.poll(ground).toBe(light);
  await page.emulateMedia({ colorScheme: 'dark' });
  await expect.poll(ground).toBe(dark);
});
