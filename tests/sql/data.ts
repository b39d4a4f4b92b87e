import type { Json } from '@zesty-sieve/core';
import type { Random } from '../torture/random.ts';

/** A column of the tables that are asked: a path of fields, and what its values are. */
export interface TestColumn {
  readonly path: readonly string[];
  readonly type: 'number' | 'text' | 'whole';
}
export interface TestTable {
  readonly name: string;
  readonly columns: readonly TestColumn[];
  /** An array of objects, or of numbers, in each document. */
  readonly arrays: readonly { readonly path: readonly string[]; readonly element: readonly TestColumn[] }[];
}

const column = (path: string, type: TestColumn['type']): TestColumn => ({ path: path.split('.'), type });

export const tables: readonly TestTable[] = [
  {
    name: 'visits',
    columns: [column('id', 'whole'), column('hut', 'whole'), column('kind', 'text'), column('party.size', 'whole'), column('party.lead.name', 'text'), column('fee', 'number')],
    arrays: [
      { path: ['nights'], element: [column('fee', 'number'), column('room', 'text')] },
      { path: ['party', 'ages'], element: [column('', 'whole')] },
    ],
  },
  {
    name: 'huts',
    columns: [column('id', 'whole'), column('name', 'text'), column('region', 'text'), column('height', 'number'), column('kind', 'text')],
    arrays: [{ path: ['tags'], element: [column('', 'text')] }],
  },
]; // prettier-ignore

const texts = ['late', 'Late', 'early', 'no-show', 'a_b', '100%', "o'clock", 'Sör', '', 'é', '😀 hut'];

/** A value of a column: often null, missing, or one that many have. */
function value(random: Random, type: TestColumn['type']): Json | undefined {
  if (random.chance(0.12)) return null;
  if (random.chance(0.12)) return undefined;
  if (type === 'text') return random.pick(texts);
  return type === 'whole' ? random.below(9) - 2 : (random.below(80) - 20) / 4;
}

function put(document: Record<string, Json>, [first, ...rest]: readonly string[], given: Json | undefined): void {
  if (given === undefined) return;
  if (rest.length === 0) document[first!] = given;
  else put((document[first!] ??= {}) as Record<string, Json>, rest, given);
}

/** Documents of a table; identities are not null. */
export function documentsOf(table: TestTable, random: Random, count: number): Record<string, Json>[] {
  return Array.from({ length: count }, (_, id) => {
    const document: Record<string, Json> = { id };
    for (const { path, type } of table.columns.slice(1)) put(document, path, value(random, type));
    for (const { path, element } of table.arrays) {
      if (random.chance(0.2)) continue;
      const items = Array.from({ length: random.below(4) }, () => {
        if (element[0]!.path[0] === '') return value(random, element[0]!.type) ?? null;
        const item: Record<string, Json> = {};
        for (const one of element) put(item, one.path, value(random, one.type));
        return item;
      });
      put(document, path, items);
    }
    return document;
  });
}
