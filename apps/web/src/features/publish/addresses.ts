import type { Publication, SavedPipeline } from '@zesty-sieve/contract';

export type Values = SavedPipeline['parameters'] | undefined;

/** A value for each parameter that is wanted, to show how it is asked: the one that its pipeline was saved with, if there is one. */
function exampleOf(
  { name, kind, of, choices, least, default: usual }: Publication['parameters'][number],
  values: Values,
): string | undefined {
  if (kind === 'condition' || usual !== undefined) return undefined;
  const saved = values?.[name];
  if (saved !== undefined && saved !== null && typeof saved !== 'object') return String(saved);
  if (choices?.[0] !== undefined) return String(choices[0]);
  if (kind === 'number' || (kind === 'list' && of === 'number')) return String(least ?? 1);
  if (kind === 'boolean') return 'true';
  return kind === 'date' ? new Date().toISOString().slice(0, 10) : name.toUpperCase();
}

/** @param values that its pipeline was saved with */
export function exampleQuery({ parameters }: Publication, values: Values): string {
  const given = parameters.map((one) => [one.name, exampleOf(one, values)] as const);
  const query = new URLSearchParams(given.flatMap(([name, value]) => (value === undefined ? [] : [[name, value]])));
  return query.size === 0 ? '' : `?${query.toString()}`;
}

export const addressOf = ({ name }: Publication, base: string, query = ''): string => `${base}/published/${encodeURIComponent(name)}${query}`; // prettier-ignore

export const curlOf = (publication: Publication, address: string): string =>
  publication.access === 'key' ? `curl -H 'Authorization: Bearer KEY' '${address}'` : `curl '${address}'`;

export function fetchOf(publication: Publication, address: string): string {
  const options = publication.access === 'key' ? ', { headers: { authorization: `Bearer ${key}` } }' : '';
  return `const response = await fetch('${address}'${options});\nif (!response.ok) throw new Error((await response.json()).detail);\nconst { documents, hasMore, next } = await response.json();\n`;
}
