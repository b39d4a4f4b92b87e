import type { Locator, Page } from '@playwright/test';
import { expect, test, type Bench } from './app.ts';

/** Documents of the demo network, as far as these questions ask of them. */
interface Hut {
  id: string;
  name: string;
  /** Not known of a few. */
  region: string | null;
  altitudeM: number;
  bunks: number | string;
  fittings: string[];
  ratings: { year: number; score: number; votes: number }[];
  fee: { night: number; reviewed: string };
  wardens?: { name: string; since: number }[];
  winterRoom?: { bunks: number };
  guide?: unknown;
}

/** One row of the condition form: the field, the test, and what is filled in. */
type Row = readonly [field: string, test: string, ...fills: (readonly [label: string, ...texts: string[]])[]];

interface Kind {
  readonly asks: string;
  /** The stages after `from huts`. */
  readonly text: string;
  readonly form: (form: StageForms) => Promise<void>;
  /** The identities that must come out, from the documents alone. */
  readonly expected: (huts: Hut[]) => Hut[];
}

const where = (asks: string, condition: string, row: Row, holds: (hut: Hut) => boolean): Kind => ({
  asks,
  text: `where ${condition}`,
  form: async (form) => {
    await form.add('where');
    await form.condition(0, row);
  },
  expected: (huts) => huts.filter(holds),
});
const byText = (key: (hut: Hut) => string) => (a: Hut, b: Hut) => (key(a) < key(b) ? -1 : key(a) > key(b) ? 1 : 0);
/** The sum without error, rounded once, over the count: adding one after another would part means that tie. */
const mean = (numbers: number[]) => {
  const whole = numbers.reduce((sum, n) => sum + BigInt(n * 2 ** 52), 0n);
  return Number(whole) / 2 ** 52 / numbers.length;
};

const kinds: readonly Kind[] = [
  where(
    'equality of text',
    '@.region == "Larch Ridge"',
    ['@.region', 'is', ['Value', 'Larch Ridge']],
    ({ region }) => region === 'Larch Ridge',
  ),
  where(
    'inequality',
    '@.region != "Larch Ridge"',
    ['@.region', 'is not', ['Value', 'Larch Ridge']],
    ({ region }) => region !== 'Larch Ridge',
  ),
  where(
    'one of several',
    '@.region in ["Larch Ridge", "Corrie Fold"]',
    ['@.region', 'is one of', ['Values', 'Larch Ridge', 'Corrie Fold']],
    ({ region }) => region === 'Larch Ridge' || region === 'Corrie Fold',
  ),
  where('at least', '@.altitudeM >= 2400', ['@.altitudeM', 'is at least', ['Value', '2400']], ({ altitudeM }) => altitudeM >= 2_400),
  where('at most', '@.altitudeM <= 1300', ['@.altitudeM', 'is at most', ['Value', '1300']], ({ altitudeM }) => altitudeM <= 1_300),
  where('above, of a nested field', '@.fee.night > 40', ['@.fee.night', 'is above', ['Value', '40']], ({ fee }) => fee.night > 40),
  where('below', '@.fee.night < 20', ['@.fee.night', 'is below', ['Value', '20']], ({ fee }) => fee.night < 20),
  where(
    'a range of numbers',
    '@.altitudeM >= 1500 && @.altitudeM <= 1700',
    ['@.altitudeM', 'is between', ['From', '1500'], ['To', '1700']],
    ({ altitudeM }) => altitudeM >= 1_500 && altitudeM <= 1_700,
  ),
  where(
    'a range of dates',
    '@.fee.reviewed >= "2025-01-01" && @.fee.reviewed <= "2025-03-31"',
    ['@.fee.reviewed', 'is between', ['From', '2025-01-01'], ['To', '2025-03-31']],
    ({ fee }) => fee.reviewed >= '2025-01-01' && fee.reviewed <= '2025-03-31',
  ),
  where('how text begins', 'starts_with(@.name, "Al")', ['@.name', 'begins with', ['Value', 'Al']], ({ name }) => name.startsWith('Al')),
  where(
    'what text contains',
    'contains(@.region, "Ridge")',
    ['@.region', 'contains', ['Value', 'Ridge']],
    ({ region }) => region?.includes('Ridge') === true,
  ),
  where(
    'how text ends',
    'ends_with(@.region, "Fold")',
    ['@.region', 'ends with', ['Value', 'Fold']],
    ({ region }) => region?.endsWith('Fold') === true,
  ),
  where('a pattern', 'match(@.id, "h-0[0-2][0-9]")', ['@.id', 'fits the pattern', ['Pattern', 'h-0[0-2][0-9]']], ({ id }) =>
    /^h-0[0-2]\d$/.test(id),
  ),
  where(
    'any element of an array',
    'includes(@.fittings, "library")',
    ['@.fittings', 'has an element that is', ['Value', 'library']],
    ({ fittings }) => fittings.includes('library'),
  ),
  where(
    'all of several elements',
    'includes_all(@.fittings, ["stove", "radio"])',
    ['@.fittings', 'has all of', ['Values', 'stove', 'radio']],
    ({ fittings }) => fittings.includes('stove') && fittings.includes('radio'),
  ),
  where(
    'how many elements',
    'length(@.fittings) == 4',
    ['@.fittings', 'has so many elements', ['Value', '4']],
    ({ fittings }) => fittings.length === 4,
  ),
  where(
    'an element at a position',
    '@.fittings[0] == "stove"',
    ['@.fittings[0]', 'is', ['Value', 'stove']],
    ({ fittings }) => fittings[0] === 'stove',
  ),
  where(
    'an element object that meets several conditions at once',
    '@.ratings[?@.score >= 4.5 && @.votes > 200]',
    ['@.ratings', 'has an element where', ['Condition on an element', '@.score >= 4.5 && @.votes > 200']],
    ({ ratings }) => ratings.some(({ score, votes }) => score >= 4.5 && votes > 200),
  ),
  where('that a field is there', '@.winterRoom', ['@.winterRoom', 'is there'], ({ winterRoom }) => winterRoom !== undefined),
  where('that a field is missing', '!@.winterRoom', ['@.winterRoom', 'is missing'], ({ winterRoom }) => winterRoom === undefined),
  {
    asks: 'any of several conditions within all of others',
    text: 'where @.altitudeM > 1500 && (@.region == "Larch Ridge" || @.fee.night > 40)',
    form: async (form) => {
      await form.add('where');
      await form.condition(0, ['@.altitudeM', 'is above', ['Value', '1500']]);
      await form.press('+ group (any of)');
      await form.condition(1, ['@.region', 'is', ['Value', 'Larch Ridge']]);
      await form.region.getByRole('group', { name: 'any of these holds' }).getByRole('button', { name: '+ condition' }).click();
      await form.condition(2, ['@.fee.night', 'is above', ['Value', '40']]);
    },
    expected: (huts) => huts.filter(({ altitudeM, region, fee }) => altitudeM > 1_500 && (region === 'Larch Ridge' || fee.night > 40)),
  },
  {
    asks: 'none of several conditions',
    text: 'where @.altitudeM > 1500 && !(@.region == "Larch Ridge" || @.fee.night > 30)',
    form: async (form) => {
      await form.add('where');
      await form.condition(0, ['@.altitudeM', 'is above', ['Value', '1500']]);
      await form.press('+ none of');
      await form.condition(1, ['@.region', 'is', ['Value', 'Larch Ridge']]);
      await form.region.getByRole('group', { name: 'none of these holds' }).getByRole('button', { name: '+ condition' }).click();
      await form.condition(2, ['@.fee.night', 'is above', ['Value', '30']]);
    },
    expected: (huts) => huts.filter(({ altitudeM, region, fee }) => altitudeM > 1_500 && !(region === 'Larch Ridge' || fee.night > 30)),
  },
  {
    asks: 'a condition that is written out, over two fields',
    text: 'where number(@.bunks) > @.fee.night',
    form: async (form) => {
      await form.add('where');
      await form.press('+ written out');
      await form.fill('Condition', 0, 'number(@.bunks) > @.fee.night');
      await form.region.getByRole('button', { name: 'Remove the condition' }).first().click();
    },
    expected: (huts) => huts.filter(({ bunks, fee }) => Number(bunks) > fee.night),
  },
  {
    asks: 'an order by two keys, the second falling',
    text: 'order by @.region, @.altitudeM desc',
    form: async (form) => {
      await form.add('order by');
      await form.fill('Key', 0, '@.region');
      await form.press('+ key');
      await form.fill('Key', 1, '@.altitudeM');
      await form.region.getByRole('button', { name: 'desc', exact: true }).nth(1).click();
    },
    expected: (huts) => huts.sort((a, b) => byText(({ region }) => region ?? '\u{10ffff}')(a, b) || b.altitudeM - a.altitudeM),
  },
  {
    asks: 'an order by what is reduced from an array',
    text: 'order by avg_of(@.ratings[*].score) desc',
    form: async (form) => {
      await form.add('order by');
      await form.fill('Key', 0, 'avg_of(@.ratings[*].score)');
      await form.region.getByRole('button', { name: 'desc', exact: true }).click();
    },
    expected: (huts) => {
      const score = ({ ratings }: Hut) => (ratings.length === 0 ? -1 : mean(ratings.map((one) => one.score)));
      return huts.sort((a, b) => score(b) - score(a));
    },
  },
  {
    asks: 'a page: an offset and a limit after an order',
    text: 'order by @.name\noffset 10\nlimit 5',
    form: async (form) => {
      await form.add('order by');
      await form.fill('Key', 0, '@.name');
      await form.add('offset');
      await form.fill('Rows', 0, '10');
      await form.add('limit');
      await form.fill('Rows', 0, '5');
    },
    expected: (huts) => huts.sort(byText(({ name }) => name)).slice(10, 15),
  },
  {
    asks: 'fewer fields, and one under another name by a computed value',
    text: 'compute beds = number(@.bunks) + 1\nwhere @.beds > 60\nomit @.ratings, @.wardens',
    form: async (form) => {
      await form.add('compute');
      await form.fill('Value', 0, 'number(@.bunks) + 1');
      await form.fill('Name', 0, 'beds');
      await form.add('where');
      await form.condition(0, ['@.beds', 'is above', ['Value', '60']]);
      await form.add('omit');
      await form.region.getByLabel('@.ratings').check();
      await form.region.getByLabel('@.wardens').check();
      await form.region.getByLabel('@.id').uncheck();
    },
    expected: (huts) => huts.filter(({ bunks }) => Number(bunks) + 1 > 60),
  },
];

/** The forms under the editor, as hands use them. */
class StageForms {
  readonly region: Locator;
  readonly page: Page;
  constructor(page: Page) {
    this.page = page;
    this.region = page.getByRole('region', { name: 'Form of the stage' });
  }
  async press(name: string) {
    await this.region.getByRole('button', { name, exact: true }).click();
  }
  add(stage: string) {
    return this.press(stage);
  }
  async fill(label: string, at: number, ...texts: string[]) {
    const input = this.region.getByLabel(label, { exact: true }).nth(at);
    for (const text of texts) {
      await input.fill(text);
      await input.press('Enter');
    }
    await input.blur();
  }
  /** Fills a row of the condition form in. Its inputs are found among those of their label from the last on, since later rows come below. */
  async condition(at: number, [field, name, ...fills]: Row) {
    await this.fill('Field', at, field);
    await this.region.getByRole('combobox', { name: 'Test' }).nth(at).click();
    await this.page.getByRole('option', { name, exact: true }).click();
    for (const [label, ...texts] of fills)
      await this.fill(label, (await this.region.getByLabel(label, { exact: true }).count()) - 1, ...texts);
  }
}

/** Runs, and reads on the screen how many rows came and the identities in sight, in their order. */
async function expectRows(bench: Bench, identities: readonly string[]) {
  await bench.run();
  const told = bench.page.getByRole('heading', { level: 2, name: /^After line/ }).locator('xpath=following-sibling::div');
  await expect(told).toHaveText(new RegExp(`^${identities.length} rows? ·`));
  await expect(async () => {
    const shown = await bench.column('id');
    expect(shown.length).toBeGreaterThan(0);
    expect(shown).toEqual(identities.slice(0, shown.length));
  }).toPass();
}

/** Asks each way and reads what comes; the second way starts from the collection alone. */
async function askBothWays(kind: Kind, huts: readonly Hut[], page: Page, bench: Bench): Promise<void> {
  const expected = kind.expected([...huts]).map(({ id }) => id);
  expect(expected.length).toBeGreaterThan(0);
  await bench.write(`from huts\n${kind.text}`);
  await expectRows(bench, expected);
  const shown = await bench.editor.innerText();
  await bench.write('from huts');
  await kind.form(new StageForms(page));
  await expect(bench.editor).toHaveText(shown, { useInnerText: true });
  await bench.editor.click();
  await expectRows(bench, expected);
}

// A few kinds a test: each begins where the one before ended, as hands do.
const kindsEach = 5;
for (let from = 0; from < kinds.length; from += kindsEach) {
  const some = kinds.slice(from, from + kindsEach);
  test(`asked as text and in forms: ${some.map(({ asks }) => asks).join('; ')}`, async ({ page, bench, request }) => {
    test.setTimeout(240_000);
    const huts = (await (await request.get('/api/collections/huts/export?format=json')).json()) as Hut[];
    await page.goto('/');
    for (const kind of some) await test.step(kind.asks, () => askBothWays(kind, huts, page, bench));
  });
}
