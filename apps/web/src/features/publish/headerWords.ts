import { approximateOf } from '../../published/asking.ts';

/** The headers of an answer in plain words. */
export function headerWords(status: number, headers: Headers, ms: number): string[] {
  const told: string[] = [];
  const cache = headers.get('cache-status') ?? '';
  if (status === 304) told.push('Nothing has changed since the answer that this page has: only that was sent.');
  else if (/; hit/.test(cache)) told.push(`It was kept, and not worked out: it is ${headers.get('age') ?? '0'} s old.${/ttl=-/.test(cache) ? ' Its time is over: a new one is being made.' : ''}${/detail/.test(cache) ? ' A new one could not be made.' : ''}`);
  else if (/collapsed/.test(cache)) told.push('Others asked the same at this moment: it was worked out once for all.');
  else if (/fwd=miss/.test(cache)) told.push(`It was worked out for this call${/stored/.test(cache) ? ', and is kept now' : ''}.`);
  const control = headers.get('cache-control') ?? '';
  const fresh = /max-age=(\d+)/.exec(control)?.[1];
  const stale = /stale-while-revalidate=(\d+)/.exec(control)?.[1];
  if (fresh !== undefined) told.push(`Whoever has it may use it for ${fresh} s more${stale !== undefined && stale !== '0' ? `, and for ${stale} s after that while a new one is fetched` : ''}.`);
  else if (/no-cache/.test(control)) told.push('Whoever has it may keep it, and asks each time whether it still stands.');
  else if (/no-store/.test(control)) told.push('Nobody keeps it.');
  if (/private/.test(control)) told.push('No cache that several share keeps it, since it was asked with a key.');
  if (headers.has('etag') && status !== 304) told.push('It has a tag (ETag): who sends it back is told in a few bytes that nothing has changed.');
  const { approximate } = approximateOf(headers);
  if (approximate !== undefined) told.push(`It is ${approximate}.`);
  const asOf = headers.get('zesty-sieve-as-of');
  if (asOf !== null) told.push(`It rests on kept rows that are out of date, made at ${asOf.slice(0, 19).replace('T', ' ')} UTC.`);
  if (headers.has('link')) told.push('There are more rows; the answer says where.');
  const bytes = headers.get('content-length');
  told.push(`${bytes === null ? '' : `${Number(bytes).toLocaleString('en')} bytes, `}${ms < 10 ? ms.toFixed(1) : Math.round(ms)} ms from asking to the answer, as this page sees it.`);
  return told;
} // prettier-ignore
