import fc from 'fast-check';
import { hashOfNumber, hashOfText } from './valueHash.ts';
import { ValueSample } from './valueSample.ts';

const sampled = (values: Iterable<string | number>, most: number): ValueSample => {
  const sample = new ValueSample(most);
  for (const value of values) sample.add(value);
  return sample;
};
const value = fc.oneof(fc.integer(), fc.string(), fc.nat(50), fc.double({ noNaN: true }));

test('two fields with few values are held against each other exactly', () => {
  fc.assert(
    fc.property(fc.array(value), fc.array(value), (first, second) => {
      const [a, b] = [new Set(first), new Set(second)];
      const common = [...a].filter((one) => b.has(one)).length;
      expect(sampled(first, 1_000).with(sampled(second, 1_000))).toEqual({
        common,
        share: a.size === 0 ? 0 : common / a.size,
        back: b.size === 0 ? 0 : common / b.size,
        exact: true,
      });
      expect(sampled(first, 1_000).isUnique).toBe(a.size === first.length);
    }),
  );
});

test('whatever is added, no more is kept than may be, and both sides keep the same of what both have', () => {
  fc.assert(
    fc.property(fc.uniqueArray(value, { minLength: 40, maxLength: 300 }), fc.integer({ min: 8, max: 40 }), (values, most) => {
      const [forth, back] = [sampled(values, most), sampled([...values].reverse(), most)];
      expect(forth.size).toBeLessThanOrEqual(most);
      expect(forth.isWhole).toBe(false);
      const { share, back: other, exact } = forth.with(back);
      expect([forth.size === 0 || share, back.size === 0 || other, exact]).toEqual([forth.size === 0 || 1, back.size === 0 || 1, false]);
    }),
  );
});

test.each<[string, (i: number) => string | number]>([
  ['numbers that follow each other', (i) => i],
  ['whole thousands', (i) => i * 1_000],
  ['beyond 32 bits', (i) => 2 ** 40 + i * 65_536],
  ['texts that differ at their end', (i) => `booking-${i}`],
  ['texts that differ at their beginning', (i) => `${i}-booking`],
])('shares of %s are not biased by which were kept', (_, made) => {
  const first = sampled(Array.from({ length: 40_000 }, (_value, i) => made(i)), 2_000);
  const second = sampled(Array.from({ length: 30_000 }, (_value, i) => made(i + 30_000)), 2_000);
  const { common, share, back } = first.with(second);
  expect(Math.abs(share - 0.25)).toBeLessThan(0.05);
  expect(Math.abs(back - 1 / 3)).toBeLessThan(0.05);
  expect(Math.abs(common / 10_000 - 1)).toBeLessThan(0.2);
}); // prettier-ignore

test('a number and its text, and numbers beyond what is whole, have hashes of their own', () => {
  const hashes = [hashOfNumber(7), hashOfText('7'), hashOfNumber(7.5), hashOfNumber(-7), hashOfNumber(2 ** 32 + 7), hashOfNumber(2 ** 60), hashOfNumber(1e300)];
  expect(new Set(hashes).size).toBe(hashes.length);
  const near = Array.from({ length: 2_000 }, (_, i) => [i, -i, 2 ** 32 + i, i * 2 ** 32]).flat();
  expect(new Set(near.map(hashOfNumber)).size).toBeGreaterThan(new Set(near).size - 3);
  expect(hashOfNumber(0)).toBe(hashOfNumber(-0));
}); // prettier-ignore
