import { z } from 'zod';

/** Work that takes long and is under way, whoever asked for it. */
export const underWay = z.object({
  id: z.string(),
  kind: z.enum(['load', 'index', 'recall', 'refresh', 'copy', 'change']),
  of: z.string().describe('The collection or view that it is about.'),
  detail: z.string().optional().describe('The index, or where it is copied to.'),
  since: z.iso.datetime(),
  share: z.number().min(0).max(1).nullable().describe('How far it has come; null where that is not known.'),
  documents: z.int().optional().describe('So many have been dealt with.'),
  canBeCancelled: z.boolean(),
});
export type UnderWay = z.infer<typeof underWay>;

export const workList = z.object({ work: z.array(underWay) });
