import { z } from 'zod';

/** A letter, then letters, digits, `_` and `-`, at most 64. */
export const collectionName = z
  .string()
  .regex(/^[A-Za-z][A-Za-z0-9_-]{0,63}$/, 'A name is a letter, then letters, digits, _ and -, at most 64 in all.');

/** The name of a saved pipeline: any text that fits in a title. */
export const pipelineName = z.string().trim().min(1).max(120);

export const json = z.json();
export const parameters = z.record(z.string(), json);
