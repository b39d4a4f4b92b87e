import type { Publication } from '@zesty-sieve/contract';

/** A value for each parameter that is wanted, to show how it is asked. */
function exampleOf({ kind, choices, least, default: usual }: Publication['parameters'][number]): string | undefined {
  if (kind === 'condition' || usual !== undefined) return undefined;
  if (choices?.[0] !== undefined) return String(choices[0]);
  if (kind === 'number') return String(least ?? 1);
  if (kind === 'boolean') return 'true';
  return kind === 'date' ? new Date().toISOString().slice(0, 10) : '…';
}

export function exampleQuery({ parameters }: Publication): string {
  const query = new URLSearchParams(parameters.flatMap((one) => (exampleOf(one) === undefined ? [] : [[one.name, exampleOf(one)!]])));
  return query.size === 0 ? '' : `?${query.toString()}`;
}

export const addressOf = ({ name }: Publication, base: string, query = ''): string => `${base}/published/${encodeURIComponent(name)}${query}`; // prettier-ignore

export const curlOf = (publication: Publication, address: string): string =>
  publication.access === 'key' ? `curl -H 'Authorization: Bearer KEY' '${address}'` : `curl '${address}'`;

export function fetchOf(publication: Publication, address: string): string {
  const options = publication.access === 'key' ? ', { headers: { authorization: `Bearer ${key}` } }' : '';
  return `const response = await fetch('${address}'${options});\nif (!response.ok) throw new Error((await response.json()).detail);\nconst { documents, hasMore, next } = await response.json();\n`;
}
