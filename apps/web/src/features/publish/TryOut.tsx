import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import type { Publication } from '@zesty-sieve/contract';
import { useRef, useState } from 'react';
import { apiUrl } from '../../api/apiUrl.ts';
import { addressOf, exampleQuery, type Values } from './addresses.ts';
import { headerWords } from './headerWords.ts';

interface Tried {
  readonly status: number;
  readonly words: readonly string[];
  readonly headers: readonly (readonly [string, string])[];
  readonly body: string;
}
const shownHeaders = [
  'content-type',
  'etag',
  'cache-control',
  'cache-status',
  'age',
  'vary',
  'link',
  'retry-after',
  'www-authenticate',
  'zesty-sieve-as-of',
];
const mostShown = 6_000;

/** Asks as anybody else would, and shows the answer with its headers in plain words. */
export function TryOut({ publication, values }: { readonly publication: Publication; readonly values: Values }) {
  const [typed, setTyped] = useState<string>();
  const query = typed ?? exampleQuery(publication, values).slice(1);
  const [key, setKey] = useState('');
  const [tried, setTried] = useState<Tried>();
  const tag = useRef<string | null>(null);
  const ask = async (ifChanged: boolean) => {
    const began = performance.now();
    const headers: Record<string, string> = { ...(key !== '' && { authorization: `Bearer ${key}` }), ...(ifChanged && tag.current !== null && { 'if-none-match': tag.current }) };
    try {
      const response = await fetch(addressOf(publication, apiUrl(), query === '' ? '' : `?${query.replace(/^\?/, '')}`), { headers, cache: 'no-store' });
      const body = await response.text();
      tag.current = response.headers.get('etag') ?? tag.current;
      setTried({ status: response.status, words: response.status >= 400 ? [] : headerWords(response.status, response.headers, performance.now() - began), headers: shownHeaders.flatMap((name) => (response.headers.has(name) ? [[name, response.headers.get(name)!] as const] : [])), body });
    } catch (error) {
      setTried({ status: 0, words: [`There is no answer: ${(error as Error).message}.`], headers: [], body: '' });
    }
  };
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.5 }}>
      <Box component="form" onSubmit={(event) => { event.preventDefault(); void ask(false); }} sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <TextField label="Parameters, as in an address" value={query} onChange={(event) => setTyped(event.target.value)} sx={{ flex: '1 1 320px' }} size="small" />
        {publication.access === 'key' && <TextField label="Key" type="password" autoComplete="off" value={key} onChange={(event) => setKey(event.target.value)} size="small" />}
        <Button type="submit" variant="contained">Ask</Button>
        <Button onClick={() => void ask(true)} disabled={tried === undefined}>Ask whether it has changed</Button>
      </Box>
      {tried && (
        <Box role="status" sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) minmax(0, 1fr)' }, gap: 2 }}>
          <Box>
            <Box sx={{ fontWeight: 700, pb: 0.5, color: tried.status >= 400 || tried.status === 0 ? 'error.main' : 'text.primary' }}>{tried.status === 0 ? 'No answer' : `${tried.status} ${statusWords(tried.status)}`}</Box>
            <Box component="ul" sx={{ m: 0, pl: 2.25 }}>{tried.words.map((one) => <li key={one}>{one}</li>)}</Box>
            <Box component="dl" sx={{ m: 0, mt: 1, display: 'grid', gridTemplateColumns: 'auto minmax(0, 1fr)', columnGap: 1.5, fontSize: 12 }}>
              {tried.headers.map(([name, value]) => (
                <Box key={name} sx={{ display: 'contents' }}>
                  <Box component="dt" sx={{ color: 'text.secondary' }}><code>{name}</code></Box>
                  <Box component="dd" sx={{ m: 0, overflowWrap: 'anywhere' }}><code>{value}</code></Box>
                </Box>
              ))}
            </Box>
          </Box>
          <Box component="pre" tabIndex={0} aria-label="The answer" sx={{ m: 0, p: 1.25, maxHeight: 320, overflow: 'auto', fontSize: 12, border: 1, borderColor: 'divider', borderRadius: 1, bgcolor: 'background.paper', whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' }}>
            {tried.body.length > mostShown ? `${tried.body.slice(0, mostShown)} …` : tried.body}
          </Box>
        </Box>
      )}
    </Box>
  );
} // prettier-ignore

const statusWords = (status: number): string => ({ 200: 'answered', 304: 'as it was', 400: 'the parameters cannot be used', 401: 'a key is wanted', 403: 'not from there', 404: 'not published', 422: 'it could not be worked out', 503: 'too much at once' })[status] ?? ''; // prettier-ignore
