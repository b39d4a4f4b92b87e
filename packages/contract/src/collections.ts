import { z } from 'zod';
import { textLanguage } from './indexes.ts';
import { collectionName, json } from './names.ts';

export const collection = z.object({
  name: collectionName,
  identity: z.string().describe('The path of the identity.'),
  count: z.int().nonnegative(),
  bytes: z.int().nonnegative().describe('Bytes of the documents’ text.'),
  scratch: z.boolean().describe('Only kept until the server stops.'),
  indexKinds: z
    .array(z.enum(['ordered', 'text', 'place', 'vector']))
    .optional()
    .describe('The kinds of indexes that it has, beside the one on the identity.'),
});
export type CollectionInfo = z.infer<typeof collection>;

export const collectionList = z.object({ collections: z.array(collection) });
export const createCollection = z.strictObject({
  name: collectionName,
  identity: z.string().default('@.id'),
  scratch: z.boolean().default(false),
});
/** Another name; or, while it is empty, another identity. */
export const renameCollection = z.strictObject({ name: collectionName.optional(), identity: z.string().optional() });
export const cleared = z.object({ removed: z.int() });

export const fieldStep = z.union([z.object({ field: z.string() }), z.object({ element: z.literal(true) })]);
const kinds = z.enum(['null', 'boolean', 'number', 'text', 'array', 'object', 'missing']);
const lengths = z.object({ least: z.int(), greatest: z.int(), mean: z.number() });
export const field = z.object({
  path: z.string().describe('The path as it is written in the notation; `[*]` stands for the elements of an array.'),
  steps: z.array(fieldStep),
  types: z.partialRecord(kinds, z.int()),
  presence: z.number().describe('Share of documents that have the field, 0 to 1.'),
  least: z.union([z.number(), z.string()]).optional(),
  greatest: z.union([z.number(), z.string()]).optional(),
  top: z.array(z.object({ value: json, count: z.int() })),
  example: json.optional(),
  whole: z.int().optional().describe('How many of its numbers are whole.'),
  distinct: z.object({ count: z.int(), exact: z.boolean() }).optional(),
  histogram: z.object({ from: z.number(), to: z.number(), counts: z.array(z.int()), exact: z.boolean() }).optional(),
  textLengths: lengths.optional(),
  arrayLengths: lengths.optional(),
  vectors: z
    .object({ dimensions: z.int(), count: z.int(), others: z.int().describe('Arrays of other lengths, or with what is no number.') })
    .optional()
    .describe('Where most of its arrays are vectors of one length.'),
  language: textLanguage.optional().describe('Of its longer texts, told by some of them.'),
  formats: z.array(z.object({ format: z.string(), share: z.number() })).optional(),
  bytes: z.int().optional().describe('Bytes of its values’ text, about.'),
  oddities: z.array(z.string()).optional().describe('What a reader should look at.'),
  note: z.string().optional(),
  unit: z.string().optional(),
});
export type Field = z.infer<typeof field>;
export const shape = z.object({
  collection: collectionName,
  count: z.int(),
  memoryBytes: z.int().describe('About what its documents take in memory, without their indexes.'),
  fields: z.array(field),
  hasMore: z.boolean().describe('Whether there may be fields beyond these: 2,000 paths are told, those that came first.'),
});
export type Shape = z.infer<typeof shape>;

/** What was found when an index was held against its documents; a sound one has as many entries as expected, and 0 of all else. */
export const indexCheck = z.object({
  name: z.string(),
  entries: z.int(),
  expected: z.int(),
  missing: z.int().describe('Entries that are not found under their keys, that stand twice, or not where their keys belong.'),
  repeated: z.int(),
  misplaced: z.int(),
  absent: z.int().describe('Documents wrongly taken for having none of the keys, or not taken for it.'),
  notUnique: z.int().describe('Of a unique index: entries with the keys of another.'),
  sound: z.boolean(),
  rebuilt: z.boolean().describe('Whether it was not, and has been built anew.'),
});
/** What was found of the file itself, and what of it could be mended, since it follows from the documents. */
export const fileCheck = z.object({ sound: z.boolean(), problems: z.array(z.string()), mended: z.array(z.string()) });
export type FileCheck = z.infer<typeof fileCheck>;
export const collectionCheck = z.object({
  at: z.string(),
  documents: z.int(),
  ms: z.number(),
  sound: z.boolean(),
  indexes: z.array(indexCheck),
  problems: z
    .array(z.object({ index: z.string(), reason: z.string() }))
    .describe('Indexes that cannot be used as they were asked for, with why: unique ones whose documents are not, and keys that change.'),
  file: fileCheck.optional().describe('Reports from before the file was looked at have none.'),
});
export type CollectionCheck = z.infer<typeof collectionCheck>;
export const checkState = z.object({
  running: z
    .object({ index: z.string(), share: z.number() })
    .nullable()
    .describe('The check that is under way: the index it is at, and the share of it that is done.'),
  last: collectionCheck.nullable(),
});
export type CheckState = z.infer<typeof checkState>;

export const fieldNote = z.strictObject({ path: z.string().min(1).max(1_000), note: z.string().max(1_000), unit: z.string().max(60) });
export type FieldNote = z.infer<typeof fieldNote>;

/** What documents are expected to be like, and what happens with one that is not. */
export const schemaMode = z.enum(['off', 'warn', 'refuse']);
export const expectation = z.strictObject({ schema: json.nullable(), mode: schemaMode });
export type Expectation = z.infer<typeof expectation>;
export const expectationCheck = z.object({
  checked: z.int(),
  failing: z.int(),
  examples: z.array(z.object({ identity: z.string(), problems: z.array(z.string()) })),
});
export type ExpectationCheck = z.infer<typeof expectationCheck>;

export const overlapRequest = z.strictObject({ first: collectionName, second: collectionName });
export const overlap = z.object({
  first: z.string(),
  second: z.string(),
  share: z.number().describe('Share of the first field’s different values that the second has; and the other way.'),
  back: z.number(),
  common: z.int(),
  unique: z.tuple([z.boolean(), z.boolean()]),
});
export type OverlapInfo = z.infer<typeof overlap>;
export const overlapList = z.object({
  pairs: z.array(overlap),
  sampled: z.boolean().describe('Whether shares and counts are those of a sample, since there is more than can be held.'),
  passedOver: z.tuple([z.int(), z.int()]).describe('Fields of either collection that could be keys and were not looked at.'),
});
export type OverlapList = z.infer<typeof overlapList>;

export const inserted = z.object({ inserted: z.int(), identities: z.array(z.string()), warnings: z.array(z.string()).optional() });
export const readDocuments = z.strictObject({ identities: z.array(z.union([z.string(), z.number()])).max(10_000) });

/** A page of documents in insertion order: those after a position. */
export const documentsQuery = z.object({
  after: z.coerce.number().int().min(-1).default(-1),
  size: z.coerce.number().int().min(1).max(1_000).default(40),
});
export const documentPage = z.object({
  documents: z.array(json),
  hasMore: z.boolean(),
  last: z.int().nullable().describe('Where the next page begins; null where there is none.'),
});
export const replacedDocuments = z.object({ inserted: z.int(), replaced: z.int() });
export const foundDocuments = z.object({ documents: z.array(json), missing: z.array(z.string()) });

export const onDuplicate = z.enum(['reject', 'skip', 'replace']);
export type OnDuplicate = z.infer<typeof onDuplicate>;
export const importOptions = z.object({
  onDuplicate: onDuplicate.default('reject'),
  types: z.enum(['auto', 'text']).default('auto').describe('CSV: whether numbers and true/false are taken as such.'),
  delimiter: z.string().length(1).default(','),
  header: z
    .enum(['yes', 'no'])
    .default('yes')
    .describe('CSV: whether the first record names the columns; without, they are called column1, column2 and so on.'),
  columns: z
    .string()
    .max(100_000)
    .optional()
    .describe('CSV: types of single columns, `name:type` separated by commas; types are auto, text, number, boolean and skip.'),
  track: z
    .string()
    .max(64)
    .optional()
    .describe(
      'A name by which the progress can be asked for while the file is on its way, and by which it is among `/work`, where it is ended.',
    ),
});
export type ImportOptions = z.infer<typeof importOptions>;

export const importResult = z.object({
  inserted: z.int(),
  skipped: z.int(),
  replaced: z.int(),
  rejected: z.array(z.object({ line: z.int(), reason: z.string() })),
  rejectedCount: z.int().describe('How many lines were rejected; more than `rejected` lists where there are very many.'),
  warnings: z.array(z.object({ line: z.int(), path: z.string(), reason: z.string() })),
});
export type ImportResult = z.infer<typeof importResult>;
/** A file is received whole before it is stored; each phase counts the file's bytes anew. */
export const importProgress = z.object({
  phase: z.enum(['receiving', 'storing']),
  bytes: z.int(),
  documents: z.int(),
  rejected: z.int(),
});
export type ImportProgress = z.infer<typeof importProgress>;

export const importPreview = z.object({
  documents: z.array(json),
  shape: z.array(field),
  problems: z.array(z.object({ line: z.int(), reason: z.string() })),
  identities: z.array(z.string()).describe('Paths of the sample whose values are all there and all different.'),
  delimiter: z.string().optional().describe('Of a CSV: the delimiter that fits best.'),
});
export type ImportPreview = z.infer<typeof importPreview>;

export const exportFormat = z.enum(['ndjson', 'json', 'csv', 'sql']);
export type ExportFormat = z.infer<typeof exportFormat>;
/** Of a CSV: whether texts that a spreadsheet would take for formulas get an apostrophe before them, or stay as they are. */
export const formulasQuery = z.object({ formulas: z.enum(['plain', 'guard']).default('plain') });
export const exportQuery = formulasQuery.extend({
  format: exportFormat.default('ndjson'),
  dialect: z.enum(['sqlite', 'postgresql']).default('sqlite').describe('Of `format=sql`: a script of the table, its rows and its indexes.'),
});
