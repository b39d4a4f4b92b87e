import type { FieldTree } from '../../../../shape/fieldTree.ts';
import type { Finding } from '../../../diagnostics/diagnostic.ts';
import { functionSignatures } from '../../../functions/signatures.ts';
import type { NodeId, Places } from '../../../places.ts';
import { reservedWords } from '../../../stages/reserved.ts';
import type { PipelineStage } from '../../../stages/stage.ts';
import { isPlainlyWritten } from '../../notation/print.ts';
import type { SqlQuery } from '../tree.ts';

/** What is known outside of a text of SQL. */
export interface Known {
  /** The names of collections and views; undefined where they are not known. */
  readonly collections?: readonly string[];
  readonly shapeOf?: (source: string) => FieldTree | undefined;
  /** A collection's identity as field names: it is never NULL. */
  readonly identityOf?: (source: string) => readonly string[] | undefined;
}

/** A stage and the clause that it comes of. */
export interface Made {
  readonly stage: PipelineStage;
  readonly clause: NodeId;
}

/** A member of WITH, with those that it may read itself. */
export interface Member {
  readonly query: SqlQuery;
  readonly members: Members;
}
export type Members = ReadonlyMap<string, Member>;

/** A question as stages, and what its rows are. */
export interface Question {
  readonly stages: readonly Made[];
  /** Its columns by name; undefined where its rows are whole documents. */
  readonly columns: readonly string[] | undefined;
  readonly tree: FieldTree | undefined;
}

/** What all of one text's translation shares. */
export interface Work {
  readonly known: Known;
  readonly places: Places;
  readonly text: string;
  /** The names of fields that stand in the text; asked where it is not known what there is. */
  readonly mentioned: () => readonly string[];
  readonly report: (finding: Finding) => void;
  /** Sources that are written beside the pipeline, since a join reads them by name. */
  readonly sources: { readonly name: string; readonly stages: readonly Made[]; readonly clause: NodeId }[];
}

/** The name of a source that neither a collection nor another has. */
export function freeSource(work: Work, wanted: string): string {
  const taken = new Set([...(work.known.collections ?? []), ...work.sources.map(({ name }) => name)]);
  return freeName(plainly(wanted), (name) => taken.has(name));
}

const plainly = (name: string): string => (isPlainlyWritten(name) ? name : name.replace(/[^A-Za-z0-9_]+/g, '_').replace(/^(?=\d|$)/, 't'));

function freeName(wanted: string, taken: (name: string) => boolean): string {
  if (!taken(wanted)) return wanted;
  let number = 2;
  while (taken(`${wanted}_${number}`)) number++;
  return `${wanted}_${number}`;
}

/** The names at the top of a row, so that nothing that is added takes a field's place. */
export class RowNames {
  private readonly taken: Set<string>;

  constructor(taken: Iterable<string>) {
    this.taken = new Set(taken);
  }
  free(wanted: string): string {
    const name = freeName(wanted, (one) => this.taken.has(one));
    this.taken.add(name);
    return name;
  }
  /** A name by which a join's partner can be called. */
  partner(wanted: string): string {
    const name = freeName(
      plainly(wanted),
      (one) => this.taken.has(one) || reservedWords.has(one) || Object.hasOwn(functionSignatures, one),
    );
    this.taken.add(name);
    return name;
  }
}

export function membersOf(query: SqlQuery, outer: Members): Members {
  const members = new Map(outer);
  // Each may read those before it, and no others.
  for (const { name, query: own } of query.members) members.set(name, { query: own, members: new Map(members) });
  return members;
}
