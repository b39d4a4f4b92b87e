import { createHash } from 'node:crypto';
import type { CollectionInfo } from '@zesty-sieve/contract';
import type { KeptRecall } from '@zesty-sieve/core';
import { ServerProblem, type Reply } from '../problem.ts';

/** A collection as the other threads need to know it. */
export interface StoredCollection extends CollectionInfo {
  readonly id: number;
  /** Goes up with every write of its documents, in the same transaction. */
  readonly version: number;
  /** Whether its documents are the kept rows of a saved pipeline. */
  readonly isView: boolean;
  readonly indexes: readonly StoredIndex[];
  /** Whether its indexes were ever held against its documents, or it was made by a version that needs no such look. */
  readonly checked: boolean;
}
export interface StoredIndex {
  readonly name: string;
  /** The definition as JSON of the contract's form. */
  readonly definition: string;
  readonly createdAt: string;
  readonly buildMs: number | null;
  /** What was measured of it last. */
  readonly recall: KeptRecall | null;
}

/** A document's text put at a position, or taken from it. */
export interface TextPut {
  readonly position: number;
  readonly text: string | null;
}

/** The same of a row of a view. */
export interface RowPut extends TextPut {
  /** What its sums were before they were rounded, as JSON; null where it has none. */
  readonly sums: string | null;
}

/** Asked before a change is committed; throws to refuse it. */
export type Check = (puts: readonly TextPut[]) => Promise<Reply<null>>;

export interface ReadDocument {
  readonly text: string;
  readonly etag: string;
}

export function etagOf(text: string): string {
  return `"${createHash('sha256').update(text).digest('base64url').slice(0, 22)}"`;
}

/** @throws ServerProblem where the check refuses what is to be put */
export async function ask(check: Check | null, puts: readonly TextPut[]): Promise<void> {
  const answer = await check?.(puts);
  if (answer !== undefined && 'problem' in answer)
    throw Object.assign(new ServerProblem('/unique', answer.problem.detail ?? ''), { problem: answer.problem });
}
