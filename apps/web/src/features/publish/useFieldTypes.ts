import type { Field, PublishedField } from '@zesty-sieve/contract';
import { sourceAskedBy } from '@zesty-sieve/core/language';
import { useShapeQuery } from '../../api/shapes.ts';

/** What the values of a field are, as the page of a publication has to know it; undefined where they are of several kinds. */
export function publishedType({ types, formats = [] }: Pick<Field, 'types' | 'formats'>): PublishedField['type'] {
  const kinds = Object.entries(types).filter(([kind, count]) => kind !== 'null' && (count ?? 0) > 0);
  const [only] = kinds;
  if (only === undefined || kinds.length > 1) return undefined;
  const [kind] = only;
  if (kind === 'text') return formats.some(({ format, share }) => /date|time/.test(format) && share > 0.99) ? 'date' : 'text';
  return kind === 'number' || kind === 'boolean' ? kind : undefined;
}

/** Fields of the collection that a condition of callers asks about, by their paths; none where lines before it make other rows. */
export function useFieldTypes(pipeline: string | undefined, parameter: string): (path: string) => PublishedField['type'] {
  const source = pipeline === undefined ? undefined : sourceAskedBy(pipeline, parameter);
  const { currentData } = useShapeQuery(source ?? '', { skip: source === undefined });
  return (path) => {
    const field = currentData?.fields.find((one) => one.path === path);
    return field && publishedType(field);
  };
}
