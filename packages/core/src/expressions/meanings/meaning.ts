import type { Value } from '../../values/json.ts';
import type { Context } from '../context.ts';

/**
 * What a function does with arguments whose types its signature has let through; `undefined` is *nothing*.
 * The last argument is the context of the run.
 */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- each meaning narrows its own arguments, as its signature says
export type Meaning = (...parameters: any[]) => Value;

export type { Context };
