import { isObject, type Json } from '@zesty-sieve/core';
import type { Database } from './database.ts';
import { tableOf } from './table.ts';

/** A field whose values are identities of another collection, as far as some of them were looked at. */
export interface Reference {
  readonly collection: string;
  /** Of the different values that were looked at, 0 to 1. */
  readonly share: number;
}

type Step = { readonly field: string } | { readonly element: true };
interface Place {
  readonly path: string;
  readonly steps: readonly Step[];
}

/** Values are looked at in documents from several places of a collection, since neighbours are often alike. */
const places = 5;
const documentsEach = 40;
const valuesEach = 60;
/** Fewer different values than this say nothing; small whole numbers are identities of much that they do not mean. */
const leastTexts = 3;
const leastNumbers = 12;
/** Named for one field, the likeliest first. */
const mostNamed = 3;
const leastShare = 0.9;

/** A field of which all of so many values are missing cannot come to the share that is asked for. */
const valuesFirst = Math.floor(valuesEach * (1 - leastShare)) + 1;
/** Fields times collections that are held against each other at most: of hundreds of collections, the first fields are. */
const mostPairs = 30_000;

/**
 * Finds fields that hold identities of other collections. It costs a few pages of the collection and some looks by
 * identity for each field and other collection, however large they are, and no more than so many.
 * @param fields the paths of the collection's shape
 * @returns by path, the collections that its values are identities of
 */
export async function findReferences(
  database: Database,
  collection: { readonly id: number; readonly nextPosition: number },
  others: readonly { readonly id: number; readonly name: string; readonly count: number }[],
  fields: readonly Place[],
): Promise<Map<string, Reference[]>> {
  const filled = others.filter(({ count }) => count > 0);
  const documents = await someDocuments(database, collection);
  const asked: { readonly path: string; readonly values: readonly string[]; readonly candidates: Reference[] }[] = [];
  for (const { path, steps } of fields) {
    if (asked.length * filled.length >= mostPairs) break;
    const values = valuesAt(documents, steps);
    if (values.length >= (values.every((value) => /^-?\d+$/.test(value)) ? leastNumbers : leastTexts)) asked.push({ path, values, candidates: [] });
  } // prettier-ignore
  const first = JSON.stringify(asked.flatMap(({ values }, at) => values.slice(0, valuesFirst).map((value) => [at, value])));
  for (const other of filled) {
    const table = tableOf(other.id);
    const met = await database.all<{ at: number }>(
      `SELECT DISTINCT value ->> 0 AS at FROM json_each(?) WHERE EXISTS (SELECT 1 FROM ${table} WHERE identity = value ->> 1)`,
      [first],
    );
    for (const { at } of met) {
      const { values, candidates } = asked[at]!;
      const { n } = await database.only<{ n: number }>(
        `SELECT count(*) AS n FROM ${table} WHERE identity IN (${values.map(() => '?').join(',')})`,
        values,
      );
      const share = n / values.length;
      if (share >= leastShare) candidates.push({ collection: other.name, share });
    }
  }
  const found = new Map<string, Reference[]>();
  for (const { path, candidates } of asked)
    if (candidates.length > 0) found.set(path, candidates.sort((a, b) => b.share - a.share).slice(0, mostNamed));
  return found;
}

async function someDocuments(database: Database, { id, nextPosition }: { id: number; nextPosition: number }): Promise<Json[]> {
  const documents: Json[] = [];
  let after = -1;
  for (let place = 0; place < places; place++) {
    const from = Math.max(after + 1, Math.floor((nextPosition * place) / places));
    const rows = await database.all<{ position: number; body: string }>(
      `SELECT position, body FROM ${tableOf(id)} WHERE position >= ? ORDER BY position LIMIT ${documentsEach}`,
      [from],
    );
    for (const { body } of rows) documents.push(JSON.parse(body) as Json);
    after = rows.at(-1)?.position ?? after;
  }
  return documents;
}

/** The different texts and whole numbers at a path, as identities are compared: by their text. */
function valuesAt(documents: readonly Json[], steps: readonly Step[]): string[] {
  const values = new Set<string>();
  const visit = (value: Json | undefined, at: number): void => {
    if (values.size >= valuesEach) return;
    if (at === steps.length) {
      if (typeof value === 'string' || (typeof value === 'number' && Number.isInteger(value))) values.add(String(value));
      return;
    }
    const step = steps[at]!;
    if ('element' in step) {
      if (Array.isArray(value)) for (const item of value) visit(item, at + 1);
    } else if (isObject(value) && Object.hasOwn(value, step.field)) visit(value[step.field], at + 1);
  };
  for (const document of documents) visit(document, 0);
  return [...values];
}
