import type { IndexDefinition } from '../../indexes/definition.ts';
import { fieldNames } from '../../language/tree.ts';
import type { PlannableStage } from '../logical.ts';
import type { Covering } from '../physical.ts';
import { readsOf, stageReads, type Reads } from '../rewrites/reads.ts';
import { namesAll, traitsOf } from '../traits.ts';
import type { Expression } from '../../language/tree.ts';

/** Fields that something reads of a row, as chains of names; undefined where it may read any. */
export type FieldsRead = readonly (readonly string[])[] | undefined;

/**
 * Everything that conditions and stages read of the documents, up to the stage that keeps only what it names; undefined
 * where there is no such stage, or one on the way needs the document itself.
 */
export function readToTheEnd(conditions: readonly Expression[], following: readonly PlannableStage[]): FieldsRead {
  const read: (readonly string[])[] = [];
  const made = new Set<string>();
  const take = (reads: Reads): boolean => {
    if (reads === 'all') return false;
    read.push(...reads.filter(([first]) => first === undefined || !made.has(first)));
    return true;
  };
  for (const condition of conditions) if (!take(readsOf(condition))) return undefined;
  for (const stage of following) {
    const { worksOnParts, writes } = traitsOf(stage);
    if (!worksOnParts || !take(stageReads(stage))) return undefined;
    if (namesAll(stage)) return read;
    const written = writes(stage);
    // What is put inside a field needs the rest of that field.
    if (written === 'any' || written.some((names) => names.length > 1)) return undefined;
    for (const [name] of written) if (name !== undefined) made.add(name);
  }
  return undefined;
}

/** The names of a key that is a field; undefined for a computed one, or one of array elements. */
export function keyFields({ keys }: IndexDefinition): (readonly string[] | undefined)[] {
  return keys.map(({ expression, several }) =>
    expression.kind === 'path' && expression.root.kind !== 'partner' && !several ? fieldNames(expression) : undefined,
  );
}

/** How rows are made of an index's keys alone; undefined where it has not all that is read. */
export function coveringTargets(definition: IndexDefinition, read: FieldsRead): Covering['targets'] | undefined {
  if (read === undefined || definition.keys.some(({ several }) => several)) return undefined;
  const fields = keyFields(definition);
  const covers = (names: readonly string[]) => fields.some((key) => key !== undefined && leads(key, names));
  if (!read.every(covers)) return undefined;
  // A field inside another key's is there with it already.
  return fields.map((key, k) =>
    key !== undefined && !fields.some((other, o) => o !== k && other !== undefined && leads(other, key)) ? key : undefined,
  );
}

function leads(first: readonly string[], names: readonly string[]): boolean {
  return first.length > 0 && first.length <= names.length && first.every((name, i) => name === names[i]);
}
