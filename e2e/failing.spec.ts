import { expect, test } from './app.ts';

/** What cannot be told is not told as if there were nothing: with every answer failing, each screen says so and none says that it is empty. */
const screens = [
  '/bench',
  '/data',
  '/data/huts',
  '/data/huts?show=fields',
  '/data/huts?show=history',
  '/indexes/huts',
  '/search',
  '/publish',
  '/runs',
];
const emptiness = /There (are|is) no|no .* has been|Nothing (is|has|would)|has no |not (there|been .*) yet|there is no /i;
const failure = JSON.stringify({
  type: '/problems/internal',
  title: 'The server failed',
  status: 500,
  detail: 'The server failed at this; its log says more.',
});

for (const [how, fulfilled] of [
  ['fails', /\/api\/(?!collections$|databases$|events)/],
  ['fails at everything', /\/api\/(?!events)/],
] as const)
  test(`a server that ${how} is not told as one that has nothing`, async ({ page }) => {
    await page.route(fulfilled, (route) => route.fulfill({ status: 500, contentType: 'application/problem+json', body: failure }));
    for (const screen of screens) {
      await page.goto(screen);
      await expect(page.getByText('The server failed at this').first()).toBeVisible();
      const said = (await page.locator('body').innerText()).split('\n').filter((line) => emptiness.test(line));
      expect.soft([screen, said]).toEqual([screen, []]);
    }
  }); // prettier-ignore
