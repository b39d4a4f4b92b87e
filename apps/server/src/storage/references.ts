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

/**
 * Finds fields that hold identities of other collections. It costs a few pages of the collection and one look by
 * identity for each value and other collection, however large they are.
 * @param fields the paths of the collection's shape
 * @returns by path, the collections that its values are identities of
 */
export async function findReferences(
  database: Database,
  collection: { readonly id: number; readonly nextPosition: number },
  others: readonly { readonly id: number; readonly name: string }[],
  fields: readonly Place[],
): Promise<Map<string, Reference[]>> {
  const documents = await someDocuments(database, collection);
  const found = new Map<string, Reference[]>();
  for (const { path, steps } of fields) {
    const values = valuesAt(documents, steps);
    if (values.length < (values.every((value) => /^-?\d+$/.test(value)) ? leastNumbers : leastTexts)) continue;
    const candidates: Reference[] = [];
    for (const other of others) {
      const { n } = await database.only<{ n: number }>(
        `SELECT count(*) AS n FROM ${tableOf(other.id)} WHERE identity IN (${values.map(() => '?').join(',')})`,
        values,
      );
      const share = n / values.length;
      if (share >= leastShare) candidates.push({ collection: other.name, share });
    }
    if (candidates.length > 0) found.set(path, candidates.sort((a, b) => b.share - a.share).slice(0, mostNamed));
  }
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
