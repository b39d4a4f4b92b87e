import { textLanguage, type IndexInfo, type Shape } from '@zesty-sieve/contract';
import { z } from 'zod';

/** What a search looks at, and how much each ranking counts. */
export const searchSettings = z.object({
  paths: z.array(z.object({ path: z.string(), weight: z.number().min(0) })),
  language: textLanguage.nullable(),
  wordsWeight: z.number().min(0),
  /** Null where meaning is left out. */
  vector: z.string().nullable(),
  vectorWeight: z.number().min(0),
  /** How many candidates are looked at; null where the best are exact. */
  effort: z.int().nullable(),
  where: z.string(),
  best: z.int().min(1).max(100),
});
export type SearchSettings = z.infer<typeof searchSettings>;

/** Texts shorter than this are names, and say little to search for. */
const leastTextLength = 20;
const leastDimensions = 8;

/** What a collection has to search in: its texts, the longest first, and its vectors. */
export function searchable({ fields }: Pick<Shape, 'fields'>): { readonly texts: readonly string[]; readonly vectors: readonly string[] } {
  const isOne = (path: string): boolean => !path.includes('[');
  const texts = fields
    .filter(
      ({ path, types, textLengths, formats }) =>
        isOne(path) &&
        (types.text ?? 0) > 0 &&
        (textLengths?.mean ?? 0) >= leastTextLength &&
        (formats ?? []).every(({ share }) => share < 0.5),
    ) // prettier-ignore
    .sort((a, b) => (a.textLengths?.mean ?? 0) - (b.textLengths?.mean ?? 0));
  const vectors = fields.filter(({ path, types, arrayLengths }) => {
    const element = fields.find((one) => one.path === `${path}[*]`);
    return isOne(path) && (types.array ?? 0) > 0 && (arrayLengths?.least ?? 0) >= leastDimensions && (element?.types.number ?? 0) > 0;
  });
  return { texts: texts.map(({ path }) => path), vectors: vectors.map(({ path }) => path) };
}

/** The index that finds the nearest of some vectors by their angle, as a search asks for them. */
export function servingVectors(indexes: readonly IndexInfo[], path: string): Extract<IndexInfo, { kind: 'vector' }> | undefined {
  return indexes.filter((one) => one.kind === 'vector').find(({ keys, metric }) => keys[0] === path && metric === 'cosine');
}

/** Where one begins: what a text index is on, else the texts that there are; short ones count more. */
export function firstSettings(shape: Pick<Shape, 'fields'>, indexes: readonly IndexInfo[]): SearchSettings {
  const { texts, vectors } = searchable(shape);
  const index = indexes.find((one) => one.kind === 'text');
  const chosen = index?.keys ?? texts.slice(-2);
  return {
    paths: chosen.map((path, i) => ({ path, weight: chosen.length > 1 && i === 0 ? 2 : 1 })),
    language: index?.kind === 'text' ? index.language : (shape.fields.find(({ path }) => path === chosen.at(-1))?.language ?? null),
    wordsWeight: 1,
    vector: vectors[0] ?? null,
    vectorWeight: 1,
    effort: null,
    where: '',
    best: 10,
  };
}
