import type { Problem } from '@zesty-sieve/contract';
import { ServerProblem } from '../problem.ts';

/** A write that is to be made once, however often it is sent (Idempotency-Key, IETF draft of the HTTP API working group). */
export interface Once {
  readonly key: string;
  /** What was asked under the key: another thing under the same key is refused. */
  readonly fingerprint: string;
}

/** An error as it crosses: structured clone would lose its code. */
export interface Failure {
  readonly name: string;
  readonly message: string;
  readonly stack?: string;
  readonly code?: string;
  /** What users are told of it. */
  readonly problem?: Problem;
}

/** To a service: a call, or the answer to what it asked back during one. */
export type ToService =
  | { readonly kind: 'call'; readonly id: number; readonly method: string; readonly args: readonly unknown[]; readonly once?: Once }
  | { readonly kind: 'answer'; readonly ask: number; readonly value: unknown }
  | { readonly kind: 'answer'; readonly ask: number; readonly failure: Failure };

/** From a service: how a call ended, or what it asks back during one. */
export type FromService =
  | { readonly kind: 'done'; readonly id: number; readonly value: unknown }
  | { readonly kind: 'failed'; readonly id: number; readonly failure: Failure }
  | { readonly kind: 'ask'; readonly id: number; readonly ask: number; readonly place: number; readonly args: readonly unknown[] };

/** Places in the memory that both sides share: how often the service got to its messages, and how many it has been sent. */
export const beats = 0;
export const messagesSent = 1;
export const sharedBytes = 8;

/** Stands for a function among the arguments of a call: the service may ask it as long as the call lasts, and no longer. */
export class Askable {
  readonly askable = true;
}
export function isAskable(value: unknown): boolean {
  return typeof value === 'object' && value !== null && (value as Partial<Askable>).askable === true;
}

export function failureOf(error: unknown): Failure {
  if (!(error instanceof Error)) return { name: 'Error', message: String(error) };
  const { name, message, stack, code } = error as Error & { code?: unknown };
  const problem = error instanceof ServerProblem ? error.problem : undefined;
  return { name, message, ...(stack !== undefined && { stack }), ...(typeof code === 'string' && { code }), ...(problem && { problem }) };
}

export function errorOf({ name, message, stack, code, problem }: Failure): Error {
  if (problem !== undefined) return ServerProblem.of(problem);
  return Object.assign(new Error(message), { name, ...(stack !== undefined && { stack }), ...(code !== undefined && { code }) });
}

const handedOver = new WeakSet<ArrayBufferLike>();

/** Bytes that are given away with a call, without a copy: they are empty here afterwards. */
export function handOver(bytes: Uint8Array<ArrayBuffer>): Uint8Array<ArrayBuffer> {
  handedOver.add(bytes.buffer);
  return bytes;
}

export function transferListOf(args: readonly unknown[]): ArrayBuffer[] {
  return args.flatMap((arg) => (arg instanceof Uint8Array && handedOver.has(arg.buffer) ? [arg.buffer as ArrayBuffer] : []));
}
