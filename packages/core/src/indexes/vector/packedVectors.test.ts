import { execFileSync } from 'node:child_process';
import { join } from 'node:path';
import fc from 'fast-check';
import { PlainVectors } from './plainVectors.ts';
import { distancesModule } from './simd/distancesModule.ts';
import { SimdVectors } from './simdVectors.ts';
import { asked, type Apart, type PackedVectors } from './vectors.ts';

const number = fc.float({ min: -100, max: 100, noNaN: true });
const some = fc
  .integer({ min: 1, max: 40 })
  .chain((dimensions) => fc.array(fc.array(number, { minLength: dimensions, maxLength: dimensions }), { minLength: 3, maxLength: 12 }));

function filled(made: PackedVectors, [first, ...vectors]: readonly number[][]): PackedVectors {
  made.room(vectors.length);
  vectors.forEach((vector, i) => made.put(i, vector));
  made.ask(first!);
  return made;
}

test.each<Apart>(['dot', 'squares'])('eight numbers at a time give what one at a time gives, but for the last bits: %s', (apart) => {
  fc.assert(
    fc.property(some, fc.array(fc.nat(100), { minLength: 1, maxLength: 20 }), (vectors, picks) => {
      const dimensions = vectors[0]!.length;
      const both = [filled(SimdVectors.where(dimensions, apart)!, vectors), filled(new PlainVectors(dimensions, apart), vectors)] as const;
      const count = vectors.length - 1;
      const scale = vectors.reduce((most, vector) => Math.max(most, vector.reduce((sum, one) => sum + one * one, 0)), 1);
      const alike = (of: number): void => {
        const [a, b] = both.map(({ out }) => [...out.subarray(0, of)]);
        a!.forEach((one, k) => expect(Math.abs(one - b![k]!)).toBeLessThanOrEqual(scale * 4e-6));
      };
      for (const from of [asked, picks[0]! % count]) {
        for (const one of both) {
          picks.forEach((pick, k) => void (one.list[k] = pick % count));
          one.listed(from, picks.length);
        }
        alike(picks.length);
        // Between two of them, so that rounding cannot tell.
        const sorted = [...both[1].out.subarray(0, picks.length)].sort((a, b) => a - b);
        const [least, greatest] = [sorted[0]! - scale * 1e-4 - 1e-4, sorted.at(-1)! + scale * 1e-4 + 1e-4];
        for (const one of both) expect([one.nearer(from, picks.length, least), one.nearer(from, picks.length, greatest), one.nearer(from, 0, greatest)]).toEqual([picks.length, -1, 0]);
      }
      for (const one of both) one.following(0, count);
      alike(count);
      for (const one of both) for (let i = 0; i < count; i++) expect([...one.at(i)]).toEqual(vectors[i + 1]);
    }),
    { numRuns: 200 },
  );
}); // prettier-ignore

test('room is made without what is there being lost', () => {
  const vectors = SimdVectors.where(3, 'dot')!;
  vectors.room(1);
  vectors.put(0, [1, 2, 3]);
  vectors.ask([1, 1, 1]);
  vectors.room(20_000);
  vectors.put(19_999, [4, 5, 6]);
  vectors.list.set([0, 19_999]);
  vectors.listed(asked, 2);
  expect([...vectors.out.subarray(0, 2)]).toEqual([-6, -15]);
  expect(vectors.bytes).toBeGreaterThan(20_000 * 32);
});

test('the module is what its text says', () => {
  const script = join(__dirname, '../../../../../scripts/simd.mjs');
  const print = `import(${JSON.stringify(script)}).then(async ({ assembled }) => process.stdout.write(await assembled()))`;
  expect(execFileSync(process.execPath, ['-e', print], { encoding: 'utf8' })).toBe(distancesModule);
});
