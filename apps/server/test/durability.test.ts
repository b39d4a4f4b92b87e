import { TestServer } from './server.ts';

describe('a server that is killed', () => {
  test('keeps what it acknowledged, and nothing of an import that it did not', async () => {
    const server = new TestServer();
    try {
      let acknowledged = 0;
      let seed = 7;
      for (let round = 0; round < 4; round++) {
        await server.start();
        if (round === 0) await server.call('POST', '/collections', { name: 'c' });
        const { body } = await server.call<{ count: number }>('GET', '/collections/c');
        expect(body.count).toBe(acknowledged);
        const { rowsReturned } = (await server.call<{ rowsReturned: number }>('POST', '/query', { pipeline: 'from c' })).body;
        expect(rowsReturned).toBe(acknowledged);
        const posted = await server.call<{ inserted: number }>(
          'POST',
          '/collections/c/documents',
          Array.from({ length: 50 }, (_, i) => ({ id: `p${round}-${i}` })),
        );
        acknowledged += posted.body.inserted;
        const lines = Array.from({ length: 60_000 }, (_, i) => JSON.stringify({ id: `i${round}-${i}`, text: 'words '.repeat(12) })).join(
          '\n',
        );
        seed = (seed * 1103515245 + 12345) % 2147483648;
        const killed = new Promise((resolve) => setTimeout(resolve, 60 + (seed % 500))).then(() => server.kill());
        const imported = await server
          .call<{ inserted: number }>('POST', '/collections/c/import', lines, { 'content-type': 'application/x-ndjson' })
          .catch(() => undefined);
        if (imported?.status === 200) acknowledged += imported.body.inserted;
        await killed;
      }
    } finally {
      await server.remove();
    }
  });

  test('a change that was killed under way is there wholly or not at all, and can be taken back where it is', async () => {
    const server = new TestServer();
    try {
      await server.start();
      await server.call('POST', '/collections', { name: 'c' });
      const lines = Array.from({ length: 20_000 }, (_, i) => JSON.stringify({ id: i, n: 0, text: 'words '.repeat(10) })).join('\n');
      await server.call('POST', '/collections/c/import', lines, { 'content-type': 'application/x-ndjson' });
      let seed = 11;
      let expected = 0;
      for (let round = 1; round <= 5; round++) {
        seed = (seed * 1103515245 + 12345) % 2147483648;
        const killed = new Promise((resolve) => setTimeout(resolve, 40 + (seed % 700))).then(() => server.kill());
        const changed = await server.call('POST', '/changes', { change: `from c\nset @.n = ${round}` }).catch(() => undefined);
        await killed;
        await server.start();
        const groups = await Promise.all(
          [expected, round].map(
            async (n) =>
              (await server.call<{ rowsReturned: number }>('POST', '/query', { pipeline: `from c\nwhere @.n == ${n}` })).body.rowsReturned,
          ),
        );
        // What was acknowledged is there; what was not may be, as long as it is there for all.
        if (changed?.status === 200) expect(groups).toEqual([0, 20_000]);
        else
          expect([
            [20_000, 0],
            [0, 20_000],
          ]).toContainEqual(groups);
        const { changes } = (await server.call<{ changes: { id: string; undoneAt: string | null }[] }>('GET', '/changes')).body;
        if (groups[1] === 20_000) {
          expected = round;
          if (round === 3) {
            expect((await server.call('POST', `/changes/${changes[0].id}/undo`)).body).toEqual({ restored: 20_000 });
            expected = (await server.call<{ documents: { n: number }[] }>('POST', '/query', { pipeline: 'from c\nlimit 1' })).body
              .documents[0].n;
          }
        }
      }
    } finally {
      await server.remove();
    }
  });

  test('everything is there after a restart: documents, indexes, pipelines', async () => {
    const server = new TestServer();
    try {
      await server.start();
      await server.call('POST', '/collections', { name: 'c', identity: '@.key.no' });
      await server.call('POST', '/collections/c/documents', [
        { key: { no: 2 }, a: 'x' },
        { key: { no: 1 }, a: 'y' },
      ]);
      await server.call('POST', '/collections/c/indexes', { keys: ['@.a desc'], where: '@.key.no > 0' });
      await server.call('PUT', '/pipelines/one', { pipeline: 'from c' });
      await server.kill('SIGTERM');
      await server.start();
      expect(
        (
          await server.call<{ documents: unknown[] }>('POST', '/query', {
            pipeline: 'from c\nwhere @.key.no > 0\norder by @.a desc',
            useIndex: 'a_desc_where_key_no_0',
          })
        ).body,
      ).toMatchObject({
        documents: [{ a: 'y' }, { a: 'x' }],
        plan: { step: 'index range scan' },
      });
      expect((await server.call<{ indexes: unknown[] }>('GET', '/collections/c/indexes')).body.indexes).toHaveLength(2);
      expect((await server.call<{ pipelines: unknown[] }>('GET', '/pipelines')).body.pipelines).toHaveLength(1);
    } finally {
      await server.remove();
    }
  });
});
