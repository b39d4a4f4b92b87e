import { readFileSync } from 'node:fs';
import { Engine } from './engine.ts';

/** The first block of a kind on a page. */
function block(page: string, fence: string): string {
  const [, text] = new RegExp(`\n\`\`\`${fence}\n([^]*?)\n\`\`\``).exec(page) ?? [];
  if (text === undefined) throw new Error(`no block ${fence}`);
  return text;
}

test('the loop that the page on loops prints is the one that its pipeline is run as', () => {
  const page = readFileSync(new URL('../../../../docs/loops.md', import.meta.url), 'utf8');
  const engine = new Engine({ pause: () => Promise.resolve(), newId: () => 'run', now: () => new Date('2026-02-03T04:05:06.789Z') });
  const bookings = engine.define('bookings', '@.id');
  for (let i = 0; i < 400; i++) {
    const status = i % 9 === 0 ? 'late' : 'booked';
    bookings.store.put(i, { id: `b-${i}`, status, hutId: `h-${i % 7}`, party: { size: 1 + (i % 6) }, nights: [{ fee: 30 }] });
  }
  const huts = engine.define('huts', '@.id');
  for (let i = 0; i < 7; i++) huts.store.put(i, { id: `h-${i}`, name: `Hut ${i}` });
  const printed = engine.loops({ pipeline: block(page, ''), parameters: { least: 2 } });
  expect(printed).toEqual({ ok: true, value: expect.any(String) as string });
  expect(block(page, 'js')).toBe((printed as { value: string }).value.trimEnd());
});
