import { z } from 'zod';

/** What an index of any kind is asked for by. */
const asked = {
  name: z.string().trim().min(1).max(200).optional(),
  where: z.string().optional().describe('A condition of the notation: only documents that meet it are indexed.'),
};
/** Entries in the order of keys; what is meant where no kind is said. */
const orderedDefinition = z.strictObject({
  ...asked,
  kind: z.literal('ordered').optional(),
  keys: z.array(z.string().min(1)).min(1).max(16).describe('As in `order by`: expressions of the notation, each perhaps with `desc`.'),
  unique: z.boolean().default(false),
});

const languages = ['arabic', 'catalan', 'czech', 'danish', 'dutch', 'english', 'finnish', 'french', 'german', 'hungarian', 'italian', 'norwegian', 'portuguese', 'romanian', 'russian', 'spanish', 'swedish', 'turkish'] as const; // prettier-ignore
export const textLanguage = z.enum(languages);
/** The words of texts. */
const textDefinition = z.strictObject({
  ...asked,
  kind: z.literal('text'),
  keys: z.array(z.string().min(1)).min(1).max(16).describe('Paths to texts, or to arrays of texts.'),
  language: textLanguage.optional().describe('Of its stems and stop words; without it words are as they stand, folded.'),
});

/** Places on the globe. */
const placeDefinition = z.strictObject({
  ...asked,
  kind: z.literal('place'),
  keys: z.array(z.string().min(1)).length(1).describe('A path to a place: a GeoJSON Point, or [longitude, latitude].'),
});

export const vectorMetric = z.enum(['cosine', 'dot', 'euclidean']);
/** Vectors, and the nearest to another. */
const vectorDefinition = z.strictObject({
  ...asked,
  kind: z.literal('vector'),
  keys: z.array(z.string().min(1)).length(1).describe('A path to an array of numbers.'),
  metric: vectorMetric.default('cosine'),
  links: z.int().min(2).max(64).optional().describe('How many links a vector has to near ones; 16 unless it is said.'),
  buildEffort: z.int().min(2).max(2_000).optional().describe('How many candidates are looked at for its links; 200 unless it is said.'),
});

/** What a variant says of its own fields stays as it is; where no variant fits, this is said. */
const noSuchKind = (issue: { readonly code?: string }): string | undefined =>
  issue.code === 'invalid_union'
    ? 'There is no such kind of index. There are ordered, which is meant where none is said, text, place and vector.'
    : undefined;

/** An index as it is asked for: told apart by its kind, one variant each. */
export const indexDefinition = z.discriminatedUnion('kind', [orderedDefinition, textDefinition, placeDefinition, vectorDefinition], {
  error: noSuchKind,
});
export type IndexRequestBody = z.input<typeof indexDefinition>;
/** The same with the collection that it is of. */
export const indexOfCollection = z.discriminatedUnion(
  'kind',
  [
    orderedDefinition.extend({ collection: z.string() }),
    textDefinition.extend({ collection: z.string() }),
    placeDefinition.extend({ collection: z.string() }),
    vectorDefinition.extend({ collection: z.string() }),
  ],
  {
    error: noSuchKind,
  },
);
/** The same where the collection may be left to the pipeline that it is planned for. */
export const indexOfSource = z.discriminatedUnion(
  'kind',
  [
    orderedDefinition.extend({ collection: z.string().optional() }),
    textDefinition.extend({ collection: z.string().optional() }),
    placeDefinition.extend({ collection: z.string().optional() }),
    vectorDefinition.extend({ collection: z.string().optional() }),
  ],
  {
    error: noSuchKind,
  },
);

const usualEfforts = [10, 20, 50, 100, 200, 500, 1_000];
const mostEffort = 10_000;
/** How many of the true best an index of vectors finds, and what that takes: what is to be measured. */
export const recallRequest = z
  .strictObject({
    efforts: z.array(z.int().min(1).max(mostEffort)).min(1).max(20).optional(),
    queries: z.int().min(1).max(1_000).default(100).describe('How many documents’ neighbourhoods are asked for.'),
    n: z.int().min(1).max(100).default(10).describe('How many of the best are looked for.'),
  })
  .refine(({ efforts = [], n }) => efforts.every((effort) => effort >= n), {
    path: ['efforts'],
    error: 'An effort is how many candidates are looked at: n or more.',
  });
/** The same with what is meant where efforts are not said. */
export function recallAsked({ efforts, queries, n }: z.output<typeof recallRequest>) {
  const said = efforts ?? [...new Set(usualEfforts.map((effort) => Math.max(effort, n)))];
  return { efforts: [...new Set(said)].sort((a, b) => a - b), queries, n };
}
const recallCost = { compared: z.int().describe('Vectors compared for a question, at the mean.'), timeMs: z.number() };
export const recall = z.object({
  n: z.int(),
  queries: z.int(),
  points: z
    .array(z.object({ effort: z.int(), recall: z.number().describe('The share of the true best that was found, 0 to 1.'), ...recallCost }))
    .readonly(),
  exact: z.object(recallCost),
  measuredAt: z.string().describe('RFC 3339.'),
});
export type RecallInfo = z.infer<typeof recall>;

/** What is told of an index of any kind. */
const told = {
  name: z.string(),
  where: z.string().nullable(),
  entries: z.int(),
  bytes: z.int().describe('Bytes in memory.'),
  createdAt: z.string().nullable().describe('RFC 3339; null for the identity index, which comes with the collection.'),
  buildMs: z.number().nullable(),
  uses: z.int().describe('How many kept runs have used it, and when the last one did.'),
  lastUsedAt: z.string().nullable(),
};
export const index = z.discriminatedUnion('kind', [
  z.object({ ...told, kind: z.literal('ordered'), keys: z.array(z.string()), unique: z.boolean() }),
  z.object({ ...told, kind: z.literal('text'), keys: z.array(z.string()), language: textLanguage.nullable() }),
  z.object({ ...told, kind: z.literal('place'), keys: z.array(z.string()) }),
  z.object({
    ...told,
    kind: z.literal('vector'),
    keys: z.array(z.string()),
    metric: vectorMetric,
    links: z.int(),
    buildEffort: z.int(),
    recall: recall.nullable().describe('What was measured of it last.'),
  }),
]);
export type IndexInfo = z.infer<typeof index>;
export type IndexKindName = IndexInfo['kind'];

export const indexBuild = z.object({ name: z.string(), phase: z.enum(['waiting', 'reading', 'sorting', 'filling']), share: z.number() });
export type IndexBuild = z.infer<typeof indexBuild>;
export const indexList = z.object({
  indexes: z.array(index),
  building: z.array(indexBuild).describe('Those that are being built, and the share of their phase that is done.'),
});
