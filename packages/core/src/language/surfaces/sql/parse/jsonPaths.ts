import { JsonPathError, parseQuery } from '../../../../jsonpath/parseQuery.ts';
import type { NodeId } from '../../../places.ts';
import type { Segment } from '../../../tree.ts';
import { faults } from '../faults.ts';
import type { SqlReader } from '../sqlReader.ts';

/** The path of a JSON function: a text that is a query of RFC 9535, `$` being the function's argument. Its nodes stand where it stands. */
export function parseJsonPath(reader: SqlReader): readonly Segment[] {
  const { token } = reader;
  if (token.kind !== 'string') return reader.fail('a path in quotes, such as ‘$.party.size’');
  reader.take();
  const { id } = reader.place(token);
  try {
    const { segments } = parseQuery(token.value);
    if (usesWhole(segments)) reader.reject(faults.badPath(token, '$ cannot stand inside a filter here: it would be another row'));
    return placedAt(segments, id);
  } catch (error) {
    if (error instanceof JsonPathError) return reader.reject(faults.badPath(token, error.message));
    throw error;
  }
}

function usesWhole(value: unknown): boolean {
  if (Array.isArray(value)) return value.some(usesWhole);
  if (typeof value !== 'object' || value === null) return false;
  return ('root' in value && (value.root as { kind: string }).kind === 'whole') || Object.values(value).some(usesWhole);
}

/** The same tree with all its nodes at one place. */
function placedAt<T>(value: T, id: NodeId): T {
  if (Array.isArray(value)) return value.map((item) => placedAt(item as unknown, id)) as T;
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) => [key, key === 'id' || key === 'nameId' ? id : placedAt(inner as unknown, id)]),
  ) as T;
}
