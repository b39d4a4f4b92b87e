import { z } from 'zod';
import { collectionName } from './names.ts';

/** One file each; several lie in a folder. */
export const databaseInfo = z.object({
  name: z.string(),
  file: z.string(),
  bytes: z.int(),
  isOpen: z.boolean(),
  isDefault: z.boolean().describe('The one that the server was started on: it is asked where no other is named.'),
  damaged: z.string().nullable().describe('Why it cannot be opened.'),
});
export type DatabaseInfo = z.infer<typeof databaseInfo>;
export const databaseList = z.object({ databases: z.array(databaseInfo), folder: z.string() });
export const namedDatabase = z.strictObject({ name: collectionName });
export const removeDatabase = z.object({ name: z.string().optional().describe('Its name once more.') });
export const copyCollection = z.strictObject({
  collection: z.string(),
  to: z.string().describe('Another database.'),
  as: collectionName.optional().describe('Another name there.'),
});
export const copiedCollection = z.object({ collection: z.string(), to: z.string(), documents: z.int(), indexes: z.int() });
export const restoredDatabase = z.object({ name: z.string(), before: z.string().describe('The file as it was, kept under this name.') });
