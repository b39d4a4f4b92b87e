/*
 * Goes through every screen, light and dark, wide and narrow, and through its dialogs, for oneself to look at: `node scripts/walk.mjs
 * ADDRESS FOLDER`, where a server listens. FOLDER gets a sheet of pictures of each screen, and `labels.tsv`: every label with the screens
 * that have it, to see whether one thing has one word. Nothing of it belongs into the repository.
 */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from 'playwright-core';

const [address, folder] = process.argv.slice(2);
if (folder === undefined) throw new Error('node scripts/walk.mjs ADDRESS FOLDER');
mkdirSync(folder, { recursive: true });
const flags = '--headless --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync'; // prettier-ignore
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: flags.split(' ') });

const { collections } = await (await fetch(`${address}/api/collections`)).json();
const of = collections.find(({ name }) => name === 'huts')?.name ?? collections[0]?.name ?? 'nothing';
/** By name: its address, and buttons that are pressed there one after another, each from a fresh page. */
const screens = {
  bench: ['/bench', ['Pipelines', 'Reference', 'Save', 'More about this pipeline', 'Chart', 'Plan', 'Shape', 'Documents']],
  data: [`/data/${of}`, ['New collection', 'More', 'Insert a document']],
  fields: [`/data/${of}?show=fields`, ['Beside another', 'Expected form']],
  load: [`/data/${of}?show=load`, ['Paste text']],
  change: [`/data/${of}?show=change`, []],
  history: [`/data/${of}?show=history`, []],
  missing: ['/data/nothing_of_this_name', []],
  indexes: [`/indexes/${of}`, []],
  search: ['/search', ['Change']],
  publish: ['/publish', ['+ new']],
  runs: ['/runs', []],
  everywhere: ['/runs', [/^Database/, /^Work/, 'Appearance']],
};
const looks = [
  ['light', 1_280, 800],
  ['dark', 1_280, 800],
  ['light', 1_024, 768],
];

/* global document -- of the page */
/** What is read aloud or seen as the name of something that can be pressed, filled in or looked at. */
const labelsOf = (page) =>
  page.evaluate(() => {
    const named = document.querySelectorAll('button, a[href], [role=tab], [role=menuitem], label, legend, th, h1, h2, h3, [aria-label]');
    return [...named]
      .map((one) => (one.getAttribute('aria-label') ?? one.textContent).trim().replace(/\s+/g, ' '))
      .filter((text) => text !== '' && text.length < 60);
  });

const labels = new Map();
const faults = [];
for (const [name, [path, buttons]] of Object.entries(screens)) {
  const pictures = [];
  for (const [colorScheme, width, height] of looks) {
    for (const button of [undefined, ...buttons]) {
      const page = await browser.newPage({ viewport: { width, height }, colorScheme });
      page.on('pageerror', ({ message }) => faults.push(`${name}: ${message}`));
      await page.goto(address + path);
      await page.waitForTimeout(1_500);
      if (button !== undefined) {
        const found = page.getByRole('button', { name: button, exact: typeof button === 'string' }).first();
        if (!(await found.isEnabled({ timeout: 1_000 }).catch(() => false))) {
          await page.close();
          continue;
        }
        await found.click();
        await page.waitForTimeout(700);
      }
      for (const label of await labelsOf(page)) labels.set(label, (labels.get(label) ?? new Set()).add(name));
      pictures.push((await page.screenshot()).toString('base64'));
      await page.close();
    }
  }
  const sheet = await browser.newPage({ viewport: { width: 1_920, height: 600 } });
  const images = pictures.map((one) => `<img style="width:632px;margin:2px;border:1px solid #888" src="data:image/png;base64,${one}">`);
  await sheet.setContent(`<body style="margin:0;background:#ccc">${images.join('')}</body>`);
  await sheet.screenshot({ path: join(folder, `${name}.png`), fullPage: true });
  await sheet.close();
  console.log(`${name}: ${pictures.length} pictures`);
}
const rows = [...labels].sort(([a], [b]) => a.localeCompare(b, 'en')).map(([label, where]) => `${label}\t${[...where].join(' ')}`);
writeFileSync(join(folder, 'labels.tsv'), `${rows.join('\n')}\n`);
for (const fault of faults) console.log(`thrown on ${fault}`);
await browser.close();
process.exit(faults.length > 0 ? 1 : 0);
