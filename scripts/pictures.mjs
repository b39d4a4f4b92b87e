/*
 * The pictures in docs/screenshots, made from the demo: `node scripts/pictures.mjs ADDRESS [NAME…]`, where a server of the demo's documents
 * listens. Each is of one main view; those whose names are given, or all.
 */
import { chromium } from 'playwright-core';

const [address = 'http://127.0.0.1:4600', ...names] = process.argv.slice(2);
const flags = '--headless --no-sandbox --disable-gpu --disable-quic --no-first-run --disable-background-networking --disable-component-update --disable-sync'; // prettier-ignore
const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: flags.split(' ') });

const late = `# parties of four and more that arrived late, and what they paid, by hut
from bookings
where @.status == "late" && @.party.size >= 4
left join huts as hut on hut.id == @.hutId
unnest @.nights as night
compute fee = @.night.fee * @.party.size
group by @.hut.name as hut
  measure fees = sum(@.fee), parties = count()
order by @.fees desc, @.hut
limit 15
`;
const bench = (more = {}) => `/bench?${new URLSearchParams({ text: late, ...more }).toString()}`;
const run = async (page) => {
  await page.keyboard.press('Control+Enter');
  await page.waitForTimeout(1_500);
};

/** The identity of a document that comes through the first condition. */
async function anyLate() {
  const pipeline = `${late.split('\n').slice(1, 3).join('\n')}\nlimit 1\n`;
  const response = await fetch(`${address}/api/query`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ pipeline }) }); // prettier-ignore
  return (await response.json()).documents[0].id;
}

/** By name: where it is, and what is done there before it is taken. */
const pictures = {
  bench: { at: bench(), work: run },
  'bench-dark': { at: bench(), isDark: true, work: run },
  chart: { at: bench({ view: 'chart' }), work: run },
  plan: { at: bench({ view: 'plan' }), work: run },
  loop: {
    at: bench({ view: 'plan' }),
    work: async (page) => {
      await run(page);
      await page.getByRole('button', { name: /loop/i }).first().click();
      await page.waitForTimeout(800);
      await page.getByText('function', { exact: false }).first().scrollIntoViewIfNeeded().catch(() => undefined); // prettier-ignore
    },
  },
  pipeline: {
    at: bench({ line: '3' }),
    work: async (page) => {
      await run(page);
    },
  },
  sql: {
    at: `/bench?${new URLSearchParams({ sql: "SELECT h.region, count(*) AS late, avg(b.party.size) AS size\nFROM bookings b JOIN huts h ON h.id = b.hutId\nWHERE b.status = 'late'\nGROUP BY h.region\nORDER BY late DESC" }).toString()}`,
    work: run,
  },
  trace: {
    at: bench(),
    work: async (page) => {
      await run(page);
      await page.keyboard.press('Control+k');
      await page.keyboard.type('Trace a document');
      await page.keyboard.press('Enter');
      await page
        .getByRole('dialog')
        .getByRole('textbox')
        .first()
        .fill(await anyLate());
      await page.keyboard.press('Enter');
      await page.waitForTimeout(1_500);
    },
  },
  lessons: {
    at: '/bench',
    isNew: true,
    work: async (page) => {
      await page.getByRole('button', { name: 'First lesson' }).click();
      await page.waitForTimeout(1_000);
      await page.getByRole('button', { name: 'Pipelines' }).click();
      await page.waitForTimeout(600);
    },
  },
  data: { at: '/data/huts?show=fields', work: (page) => page.waitForTimeout(1_500) },
  indexes: { at: '/indexes/reports', work: (page) => page.waitForTimeout(6_000) },
  view: { at: '/data/fees_by_hut_and_month', work: (page) => page.waitForTimeout(1_500) },
  search: {
    at: '/search',
    work: async (page) => {
      await page.waitForTimeout(1_000);
      await page.getByRole('textbox').first().fill('broken bridge at the stream');
      await page.keyboard.press('Enter');
      await page.waitForTimeout(2_500);
    },
  },
  publish: {
    at: '/publish/where-to-stay',
    work: async (page) => {
      await page.getByRole('button', { name: 'Ask', exact: true }).click();
      await page.waitForTimeout(2_000);
    },
  },
  runs: { at: '/runs', work: (page) => page.waitForTimeout(1_500) },
};

for (const [name, { at, isDark = false, isNew = false, work }] of Object.entries(pictures)) {
  if (names.length > 0 && !names.includes(name)) continue;
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: isDark ? 'dark' : 'light' });
  // Whoever looks at the pictures is not here for the first time.
  if (!isNew) await context.addInitScript(() => localStorage.setItem('zesty-sieve-lessons', '{"isWelcomed":true}'));
  const page = await context.newPage();
  await page.goto(address + at);
  await page.waitForTimeout(1_500);
  await work(page);
  await page.screenshot({ path: `docs/screenshots/${name}.png` });
  process.stdout.write(`${name}\n`);
  await context.close();
}
await browser.close();
