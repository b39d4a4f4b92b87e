import fc from 'fast-check';
import { Gate } from './gate.ts';

const soon = (): Promise<void> => new Promise((resolve) => setImmediate(resolve));

test('readers go in together; a writer waits for those before it, and those after it wait for the writer', async () => {
  const gate = new Gate();
  const happened: string[] = [];
  const held: (() => void)[] = [];
  const reading = (name: string) =>
    gate.read(async () => {
      happened.push(`${name} in`);
      await new Promise<void>((resolve) => held.push(resolve));
      happened.push(`${name} out`);
    });
  const all = [reading('a'), reading('b'), gate.write(() => happened.push('write')), reading('c')];
  await soon();
  expect(happened).toEqual(['a in', 'b in']);
  held[1]();
  await soon();
  expect(happened).toEqual(['a in', 'b in', 'b out']);
  held[0]();
  await soon();
  expect(happened).toEqual(['a in', 'b in', 'b out', 'a out', 'write', 'c in']);
  held[2]();
  await Promise.all(all);
});

test('work that fails lets the next in', async () => {
  const gate = new Gate();
  await expect(gate.read(() => Promise.reject(new Error('read')))).rejects.toThrow('read');
  await expect(
    gate.write(() => {
      throw new Error('write');
    }),
  ).rejects.toThrow('write');
  expect(await gate.write(() => 1)).toBe(1);
  expect(await gate.read(() => Promise.resolve(2))).toBe(2);
});

test('whatever comes in whatever order: nobody reads while one writes, and all come to their end', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.record({ writes: fc.boolean(), after: fc.nat(3), takes: fc.nat(3) }), { maxLength: 25 }),
      async (works) => {
        const gate = new Gate();
        let value = 0;
        let writes = 0;
        const done = await Promise.all(
          works.map(async ({ writes: isWrite, after, takes }) => {
            for (let i = 0; i < after; i++) await soon();
            if (isWrite) return gate.write(() => (writes++, value++, true));
            return gate.read(async () => {
              const seen = value;
              for (let i = 0; i < takes; i++) await soon();
              return seen === value;
            });
          }),
        );
        expect(done).toEqual(works.map(() => true));
        expect(value).toBe(writes);
      },
    ),
    { numRuns: 60 },
  );
});
