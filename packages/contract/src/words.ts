import { z } from 'zod';
import { textLanguage } from './indexes.ts';

/** Texts as a text index sees them. */
export const analyseRequest = z.strictObject({
  texts: z.array(z.string().max(1_000_000)).max(50),
  words: z.string().max(10_000).optional().describe('Words as they are typed to be searched for.'),
  language: textLanguage.optional(),
});
export const analysed = z.object({
  texts: z.array(
    z.array(
      z.object({
        word: z.string(),
        from: z.int().describe('Where it stands, in UTF-16 units.'),
        term: z.string().nullable().describe('What it is compared as; null for a stop word.'),
      }),
    ),
  ),
  words: z.array(z.object({ kind: z.enum(['term', 'beginning', 'near']), text: z.string() })),
});
export type Analysed = z.infer<typeof analysed>;
