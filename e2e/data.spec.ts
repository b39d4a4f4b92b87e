import { expect, test, type Bench } from './app.ts';
import type { Page } from '@playwright/test';

async function newCollection(page: Page, name: string): Promise<void> {
  await page.goto('/data');
  await page.getByRole('navigation', { name: 'Collections' }).getByRole('button', { name: 'New collection' }).click();
  await page.getByLabel('Name').fill(name);
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(page.getByRole('heading', { name })).toBeVisible();
}

test('a CSV is looked at before it is loaded: its delimiter, its identity, the types of its columns', async ({ page }) => {
  await newCollection(page, 'stores');
  const text = 'key;size;when\n007;4;2026-01-02\n008;5;2026-01-03\n009;x;2026-01-04\n';
  await page.getByLabel('File to load').setInputFiles({ name: 'stores.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  const before = page.getByRole('region', { name: 'Before it is loaded' });
  await expect(before.getByRole('table', { name: 'Shape of the first documents' })).toContainText('@.when');
  await before.getByLabel('key', { exact: true }).click();
  await page.getByRole('option', { name: 'text' }).click();
  await before.getByLabel('size', { exact: true }).click();
  await page.getByRole('option', { name: 'number' }).click();
  await expect(before).toContainText('line 4: size is to be a number, and is "x"');
  await before.getByRole('combobox', { name: 'Identity', exact: true }).click();
  await page.getByRole('option', { name: '@.key' }).click();
  await before.getByRole('button', { name: 'Load it' }).click();
  const done = page.getByRole('status').filter({ hasText: 'stored' });
  await expect(done).toContainText('2 documents stored, 1 line rejected');
  await page.getByRole('button', { name: 'Documents', exact: true }).click();
  await expect(page.getByLabel('Documents', { exact: true })).toContainText('"007"');
});

test('documents whose identity has a name of any kind are edited, copied and removed by it, and put back', async ({ page, app }) => {
  const post = (path: string, body: unknown) =>
    fetch(`${app.address}/api${path}`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  await post('/collections', { name: 'oddly', identity: '@["hut.no"]' });
  await post('/collections/oddly/documents', [1, 2, 3].map((no) => ({ 'hut.no': `no ${no}`, bunks: no * 10 })));
  await page.goto('/data/oddly');
  await page.getByRole('button', { name: 'Documents', exact: true }).click();
  const list = page.getByLabel('Documents', { exact: true });
  await page.getByRole('group', { name: 'Document no 2' }).getByRole('button', { name: 'Edit' }).click();
  await expect(page.getByRole('textbox', { name: 'Document as JSON' })).toContainText('"bunks": 20');
  await page.keyboard.press('Escape');
  await page.getByRole('group', { name: 'Document no 3' }).getByRole('button', { name: 'Duplicate' }).click();
  await expect(page.getByRole('textbox', { name: 'Document as JSON' })).toContainText('"bunks": 30');
  await expect(page.getByRole('textbox', { name: 'Document as JSON' })).not.toContainText('hut.no');
  await page.keyboard.press('Escape');
  await page.getByRole('group', { name: 'Document no 2' }).getByRole('button', { name: 'Remove' }).click();
  await expect(list).not.toContainText('no 2');
  await expect(list).toContainText('no 1');
  // Somebody else has taken its identity: that it cannot be put back is told.
  await post('/collections/oddly/documents', [{ 'hut.no': 'no 2' }]);
  await page.getByRole('button', { name: 'Put it back at the end' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'no 2' }).last()).toContainText(/already|taken/);
}); // prettier-ignore

test('a document is edited with its differences shown, and a change by someone else is not overwritten unseen', async ({ page, app }) => {
  const at = `${app.address}/api/collections/routes/documents`;
  const [route] = ((await (await fetch(`${at}?size=1`)).json()) as { documents: { id: string; grade: string }[] }).documents;
  await page.goto('/data/routes');
  await page.getByLabel('Open by identity').fill(route.id);
  await page.getByLabel('Open by identity').press('Enter');
  const editor = page.getByRole('textbox', { name: 'Document as JSON' });
  await expect(editor).toContainText(route.id);
  await editor.click();
  await page.keyboard.press('Control+Home');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.type('\n"checked": true,');
  await page.getByRole('button', { name: 'See what changes' }).click();
  await expect(page.getByLabel('Differences')).toContainText('"checked": true');
  const other = await fetch(`${at}/${route.id}`, {
    method: 'PATCH',
    body: '{"closed": "by snow"}',
    headers: { 'content-type': 'application/merge-patch+json' },
  });
  expect(other.status).toBe(200);
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByRole('alert')).toContainText('Someone else has changed it');
  await expect(page.getByLabel('Differences')).toContainText('"closed": "by snow"');
  await page.getByRole('button', { name: 'Start from what is stored' }).click();
  await editor.click();
  await page.keyboard.press('Control+Home');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.type('\n"checked": true,');
  await page.getByRole('button', { name: 'See what changes' }).click();
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText(`${route.id} saved.`)).toBeVisible();
  expect(await (await fetch(`${at}/${route.id}`)).json()).toMatchObject({ checked: true, closed: 'by snow' });
});

async function writeChange(page: Page, bench: Bench, text: string): Promise<void> {
  await page.getByRole('button', { name: 'Change', exact: true }).first().click();
  await bench.write(text);
}

test('a change is previewed, warned of, made, told of and taken back; another window hears of it', async ({
  page,
  bench,
  app,
  context,
}) => {
  const other = await context.newPage();
  await other.goto(`/bench?${new URLSearchParams({ text: 'from huts\nwhere @.fee.night > 1000', line: '2' })}`);
  await expect(other.getByText('No rows come out')).toBeVisible();

  await page.goto('/data/huts?show=change');
  await writeChange(page, bench, 'from huts\nwhere @.altitudeM > 2400\nset @.fee.night = @.fee.night + 1000');
  await expect(page.getByText(/documents would change, of \d+ found/)).toBeVisible();
  await expect(page.getByRole('list', { name: 'Look at this first' })).toContainText('Made again, it would change the same again');
  const first = page.getByRole('region', { name: /^Document h-/ }).first();
  await expect(first.getByLabel('Differences')).toContainText(/"night": 1,?0\d\d/);
  await page.getByRole('button', { name: /^Change \d+ documents$/ }).click();
  await expect(page.getByRole('dialog')).toContainText('Made twice, this would change documents twice');
  await page
    .getByRole('dialog')
    .getByRole('button', { name: /^Change \d+ documents$/ })
    .click();
  await expect(page.getByText(/\d+ documents changed\./)).toBeVisible();
  const dear = async () =>
    (
      (await (
        await fetch(`${app.address}/api/query`, {
          method: 'POST',
          headers: { 'content-type': 'application/json' },
          body: JSON.stringify({ pipeline: 'from huts\nwhere @.fee.night > 1000' }),
        })
      ).json()) as { rowsReturned: number }
    ).rowsReturned;
  expect(await dear()).toBeGreaterThan(10);
  await expect(other.getByText('huts has changed since this run.')).toBeVisible();

  await page.getByRole('button', { name: 'History' }).click();
  const entry = page.getByRole('region', { name: /^Change of \d+ documents$/ }).first();
  await expect(entry).toContainText('can be taken back');
  await entry.getByRole('button', { name: 'Before and after' }).click();
  await expect(entry.getByLabel('Differences').first()).toContainText('"night"');
  await entry.getByRole('button', { name: 'Take it back' }).click();
  await expect(entry).not.toContainText('can be taken back');
  await expect(entry).toContainText('taken back');
  expect(await dear()).toBe(0);
});

test('a change of all asks for the name; a step is built by its form', async ({ page, bench }) => {
  await newCollection(page, 'few');
  await page.getByRole('button', { name: 'Paste text' }).click();
  await page.getByLabel('Text to load').fill('{"id": 1, "tags": ["a"]}\n{"id": 2, "tags": []}');
  await page.getByRole('button', { name: 'Look at it' }).click();
  await page.getByRole('button', { name: 'Load it' }).click();
  await expect(page.getByRole('status').filter({ hasText: '2 documents stored' })).toBeVisible();
  await writeChange(page, bench, 'from few');
  const form = page.getByRole('region', { name: 'Form of the step' });
  await form.getByRole('button', { name: 'append' }).click();
  await form.getByLabel('Array').fill('@.tags');
  await form.getByLabel('Array').press('Enter');
  await form.getByLabel('Element').fill('"new"');
  await form.getByLabel('Element').press('Enter');
  await expect(bench.editor).toContainText('append "new" to @.tags');
  await page.getByRole('button', { name: 'Change 2 documents' }).click();
  const go = page.getByRole('dialog').getByRole('button', { name: 'Change 2 documents' });
  await expect(go).toBeDisabled();
  await page.getByLabel('Type few to change all of it').fill('few');
  await go.click();
  await expect(page.getByText('2 documents changed.')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByText('2 documents put back as before.')).toBeVisible();
});

test('the shape calls out what is odd, carries a note, and shows what two collections share', async ({ page }) => {
  await page.goto('/data/huts?show=fields');
  await page.getByRole('button', { name: /fields? to look at/ }).click();
  const fields = page.getByRole('table', { name: 'Fields' });
  await fields.getByRole('button', { name: '@.bunks' }).click();
  const detail = page.getByRole('complementary', { name: 'Field @.bunks' });
  await expect(detail).toContainText('It has several types: number 94.2 %, text 5.8 %');
  await detail.getByLabel('Unit').fill('beds');
  await detail.getByRole('button', { name: 'Keep the note' }).click();
  await expect(fields).toContainText('beds');
  await page.getByRole('button', { name: 'Beside another' }).click();
  await page.getByLabel('Other collection').click();
  await page.getByRole('option', { name: 'bookings' }).click();
  await expect(page.getByRole('table', { name: 'Fields that overlap' })).toContainText('@.hutId');
});

test('a file is loaded as a scratch collection beside the one that is open; some documents are edited as a list', async ({ page, app }) => {
  await newCollection(page, 'listed');
  const text = Array.from({ length: 5 }, (_, i) => JSON.stringify({ id: `p${i}`, n: i })).join('\n');
  const choose = (name: string) =>
    page.getByLabel('File to load').setInputFiles({ name, mimeType: 'application/x-ndjson', buffer: Buffer.from(text) });
  await choose('some places.ndjson');
  const before = page.getByRole('region', { name: 'Before it is loaded' });
  await before.getByLabel('Load into').click();
  await page.getByRole('option', { name: /^look_some_places, in memory only/ }).click();
  await before.getByRole('button', { name: 'Load it' }).click();
  await expect(page.getByRole('status').filter({ hasText: 'stored' })).toContainText('5 documents stored in look_some_places');
  await page.getByRole('link', { name: 'Show look_some_places' }).click();
  await expect(page.getByRole('heading', { name: 'look_some_places' })).toBeVisible();
  await expect(page.getByRole('navigation', { name: 'Collections' })).toContainText('scratch');

  await page.getByRole('button', { name: 'Documents', exact: true }).click();
  await page.getByRole('button', { name: 'Edit as a list' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('5 documents as a list');
  const editor = dialog.getByRole('textbox', { name: 'Document as JSON' });
  await expect(editor).toContainText('p4');
  await editor.click();
  await page.keyboard.press('Control+A');
  await page.keyboard.insertText('[{"id": "p0", "n": 100}, {"id": "p9", "n": 9}]');
  await dialog.getByRole('button', { name: 'See what changes' }).click();
  await expect(dialog.getByLabel('Differences')).toContainText('"n": 100');
  await dialog.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('1 document replaced, 1 added.')).toBeVisible();
  const documents = async () =>
    ((await (await fetch(`${app.address}/api/collections/look_some_places/documents`)).json()) as { documents: { n: number }[] }).documents;
  expect((await documents()).map(({ n }) => n)).toEqual([100, 1, 2, 3, 4, 9]);
});

test('the indexes of a collection are held against its documents, and what was found stays to be read', async ({ page }) => {
  await page.goto('/data/routes');
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Check' }).click();
  const dialog = page.getByRole('dialog');
  await expect(dialog).toContainText('It has not been checked yet.');
  await dialog.getByRole('button', { name: 'Check now' }).click();
  await expect(dialog.getByRole('status')).toContainText('Everything stands where it should: 1 index over 400 documents');
  await expect(dialog.getByRole('row', { name: /identity/ })).toContainText('sound');
  await dialog.getByRole('button', { name: 'Close' }).click();
  await page.reload();
  await page.getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Check' }).click();
  await expect(page.getByRole('dialog').getByRole('status')).toContainText('400 documents');
  await expect(page.getByRole('dialog').getByRole('button', { name: 'Check again' })).toBeVisible();
});
