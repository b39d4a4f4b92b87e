import type { IndexInfo, IndexKindName, IndexRequestBody, IndexSummaryInfo } from '@zesty-sieve/contract';
import type { ComponentType } from 'react';

/** What is asked for, without what any kind has: its name and its condition. */
export type OwnRequest<K extends IndexKindName> = Omit<Extract<IndexRequestBody, { kind?: K }>, 'name' | 'where'>;
export type InfoOf<K extends IndexKindName> = Extract<IndexInfo, { kind: K }>;
export type SummaryOf<K extends IndexKindName> = Extract<IndexSummaryInfo, { kind: K }>;

interface FieldsProps<D> {
  readonly draft: D;
  /** What is wrong with the last one that was asked for. */
  readonly wrong: string | undefined;
  readonly onChange: (draft: D) => void;
}

/** How one kind of index is asked for and told of: a file each, and a line in the registry. */
export interface IndexKindView<K extends IndexKindName, D> {
  readonly title: string;
  readonly doc: string;
  readonly empty: D;
  /** What a draft asks for; undefined while it says too little. */
  readonly request: (draft: D) => OwnRequest<K> | undefined;
  readonly Fields: ComponentType<FieldsProps<D>>;
  /** Whether it may be of some of the documents alone. */
  readonly takesCondition: boolean;
  /** What it knows of its values. */
  readonly Summary: ComponentType<{ readonly collection: string; readonly index: InfoOf<K>; readonly summary: SummaryOf<K> }>;
  /** What it is on, as the list names it, and what else is to be said of it. */
  readonly heading: (index: InfoOf<K>) => string;
  readonly facts: (index: InfoOf<K>) => readonly string[];
  /** What asks for the same again. */
  readonly again: (index: InfoOf<K>) => OwnRequest<K>;
}
