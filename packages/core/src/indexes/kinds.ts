import type { DocumentStore } from '../storage/store.ts';
import { IndexProblem, readDefinition, type IndexDefinition, type IndexKindName, type IndexRequest } from './definition.ts';
import type { BuiltIndex, IndexKind } from './kind.ts';
import { ordered } from './ordered/kind.ts';
import { place } from './place/kind.ts';
import { text } from './text/kind.ts';
import { vector } from './vector/kind.ts';

/** Every kind of index. */
export const indexKinds = { ordered, text, place, vector } satisfies { readonly [K in IndexKindName]: Pick<IndexKind, 'words' | 'unfit'> };

/** The kind of an index, taken for any: the registry has paired each with its own. */
export function kindOf({ kind }: Pick<IndexDefinition, 'kind'>): IndexKind {
  return indexKinds[kind] as unknown as IndexKind;
}

/**
 * Reads the texts of an index.
 * @throws IndexProblem where a key or the condition is not of the notation, or the kind cannot be of such keys
 */
export function readIndex(request: IndexRequest): IndexDefinition {
  if (request.kind !== undefined && !Object.hasOwn(indexKinds, request.kind))
    throw new IndexProblem(`There is no kind of index ${request.kind}. There ${Object.keys(indexKinds).length === 1 ? 'is' : 'are'} ${Object.keys(indexKinds).join(', ')}.`); // prettier-ignore
  const definition = readDefinition(request);
  const problem = kindOf(definition).unfit(definition);
  if (problem !== undefined) throw new IndexProblem(problem);
  return definition;
}

/** Runs a build to its end without pausing; one that would take minutes is only begun. */
export function builtAtOnce(definition: IndexDefinition, store: DocumentStore): BuiltIndex {
  const { begin, build } = kindOf(definition);
  if (begin !== undefined) return begin(definition, store);
  const steps = build(definition, store);
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
