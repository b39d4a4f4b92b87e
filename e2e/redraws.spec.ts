import { expect, test } from './app.ts';

/*
 * What is drawn again while someone types, as React itself tells it to developer tools: every component that did work in a commit,
 * by the part of the screen that it is in.
 */
interface Fiber {
  readonly tag: number;
  readonly flags: number;
  readonly child: Fiber | null;
  readonly sibling: Fiber | null;
  readonly return: Fiber | null;
  readonly stateNode: unknown;
}
interface Counting {
  counts: { editorSide: number; elsewhere: string[] };
}

test('a letter redraws the editor and nothing else', async ({ page, bench }) => {
  await page.addInitScript(() => {
    const host = 5;
    const components = [0, 11, 14, 15];
    const performedWork = 1;
    const counting = window as unknown as Counting & { __REACT_DEVTOOLS_GLOBAL_HOOK__: unknown };
    counting.counts = { editorSide: 0, elsewhere: [] };
    let before = new Set<Fiber>();
    const elementOf = (fiber: Fiber): Element | undefined => {
      let inside: Fiber | null = fiber.child;
      while (inside !== null && inside.tag !== host) inside = inside.child;
      const found = inside?.stateNode;
      return found instanceof Element ? found : undefined;
    };
    counting.__REACT_DEVTOOLS_GLOBAL_HOOK__ = {
      supportsFiber: true,
      inject: () => 1,
      checkDCE: () => undefined,
      onCommitFiberUnmount: () => undefined,
      onPostCommitFiberRoot: () => undefined,
      onCommitFiberRoot: (_: number, root: { readonly current: Fiber }) => {
        const now = new Set<Fiber>();
        const visit = (start: Fiber | null): void => {
          for (let fiber = start; fiber !== null; fiber = fiber.sibling) {
            now.add(fiber);
            // One that was not looked at in this commit is the same as before it.
            const worked = components.includes(fiber.tag) && !before.has(fiber) && (fiber.flags & performedWork) !== 0;
            const element = worked ? elementOf(fiber) : undefined;
            // One without an element draws nothing: it keeps the address and the text alike.
            if (element !== undefined) {
              let panel = element.closest('[data-panel]');
              while (panel?.parentElement?.closest('[data-panel]')) panel = panel.parentElement.closest('[data-panel]');
              const isForm = element.closest('[aria-label="Form of the stage"]') !== null;
              if (!isForm && panel?.querySelector('.cm-editor')) counting.counts.editorSide++;
              else counting.counts.elsewhere.push(element.closest('[aria-label]')?.getAttribute('aria-label') ?? element.tagName);
            }
            visit(fiber.child);
          }
        };
        visit(root.current);
        before = now;
      },
    };
  });
  await page.clock.install();
  await page.goto('/?');
  await bench.write('from huts\nwhere @.altitudeM > 1000\nselect @.name, @.altitudeM  # high');
  await bench.run();
  // No pause in typing ever comes: what waits for one is not to be counted.
  await page.clock.pauseAt(Date.now() + 600_000);
  // The first letter makes the figures of the last run those of another text, which they tell.
  await page.keyboard.type('e');
  await expect(bench.editor).toContainText('highe');
  await page.evaluate(() => {
    (window as unknown as Counting).counts = { editorSide: 0, elsewhere: [] };
  });
  await page.keyboard.type('rs');
  await expect(bench.editor).toContainText('highers');
  const { editorSide, elsewhere } = await page.evaluate(() => (window as unknown as Counting).counts);
  expect(editorSide).toBeGreaterThan(0);
  expect(elsewhere).toEqual([]);
});
