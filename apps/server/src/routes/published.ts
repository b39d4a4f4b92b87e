import { Router, type Request, type Response } from 'express';
import type { PublicationCache, PublishedForm } from '@zesty-sieve/contract';
import { approximateHeader, asOfHeader } from '../http/saidOfRows.ts';
import { handle, part } from '../http/handler.ts';
import { sendProblem } from '../http/problemHandler.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem } from '../problem.ts';
import type { Computed, Served } from '../publishing/answerCache.ts';
import { columnNames } from '../publishing/columnNames.ts';
import { formats, outwards, type Asked, type Format } from '../publishing/compute.ts';
import { describePublications } from '../publishing/describe.ts';
import { readParameters, type Fault } from '../publishing/parameters.ts';
import { withNotes } from '../publishing/noted.ts';
import type { Open } from '../publishing/publisher.ts';

/** Who else may ask: what the server's own access says of a request, beside the publication's. */
export interface PublishedAccess {
  /** @throws ServerProblem where this listener does not let a caller ask, whatever his key */
  readonly admit: (request: Request, response: Response, isOpen: boolean) => void;
  /** The origin of the listener's own pages. */
  readonly isOwnOrigin: (request: Request, origin: string) => boolean;
}

/** What is published, for programs: nothing else of the server can be reached from here. */
export function publishedRoutes(hub: Hub, access: PublishedAccess): Router {
  const router = Router();
  const { publisher } = hub;

  /** Lets a browser's pages from the origins that are listed ask (Fetch, CORS protocol). */
  const letOrigins = ({ publication }: Open, request: Request, response: Response): void => {
    const { origin } = request.headers;
    const vary = [...(publication.origins.length > 0 ? ['Origin'] : []), ...(publication.access === 'key' ? ['Authorization'] : [])];
    if (vary.length > 0) response.setHeader('Vary', vary.join(', '));
    if (origin === undefined || access.isOwnOrigin(request, origin)) return;
    if (!publication.origins.includes(origin)) throw new ServerProblem('/forbidden-origin', `Pages from ${origin} may not ask for this.`);
    response.setHeader('Access-Control-Allow-Origin', origin);
    response.setHeader('Access-Control-Expose-Headers', `ETag, Age, Cache-Status, Link, Retry-After, ${approximateHeader}, ${asOfHeader}`);
  };

  const admitted = async (request: Request, response: Response): Promise<Open> => {
    response.setHeader('X-Content-Type-Options', 'nosniff');
    const open = await publisher.find(part(request, 'name'));
    letOrigins(open, request, response);
    publisher.admit(open, request.headers.authorization);
    access.admit(request, response, open.publication.access === 'open');
    return open;
  };

  router.get(
    '/openapi.json',
    outside(async (request, response) => {
      access.admit(request, response, true);
      response.json(describePublications(await publisher.knownTo(request.headers.authorization), request.baseUrl));
    }),
  );

  router
    .route('/:name')
    .options(
      outside(async (request, response) => {
        const open = await publisher.find(part(request, 'name'));
        letOrigins(open, request, response);
        response.setHeader('Allow', allowed);
        if (response.hasHeader('Access-Control-Allow-Origin')) {
          response.setHeader('Access-Control-Allow-Methods', 'GET, HEAD');
          response.setHeader('Access-Control-Allow-Headers', 'Authorization, If-None-Match');
          response.setHeader('Access-Control-Max-Age', '600');
        }
        response.status(204).end();
      }),
    )
    .get(
      outside(async (request, response) => {
        const began = performance.now();
        const open = await admitted(request, response);
        const { name } = open.publication;
        try {
          const served = await answer(open, request, response);
          const isFresh = served !== undefined && (served.how === 'miss' || served.how === 'collapsed');
          publisher.figures.add(name, {
            ms: performance.now() - began,
            fromCache: !isFresh,
            documentsRead: served?.how === 'miss' ? served.answer.documentsRead : 0,
            documentsSaved: served === undefined || served.how === 'miss' ? 0 : served.answer.documentsRead,
          });
        } catch (error) {
          const problem = outwards(error);
          publisher.figures.add(name, {
            ms: performance.now() - began,
            fromCache: false,
            documentsRead: 0,
            documentsSaved: 0,
            failure: problem.message,
          });
          throw error;
        }
      }),
    )
    .all(notAsked);

  /** Worked out once for each answer. */
  const tags = new WeakMap<Computed, string>();
  const tagInState = (open: Open, asked: Asked, answered: Computed, state: string): string => {
    let tag = tags.get(answered);
    if (tag === undefined) tags.set(answered, (tag = publisher.tagFor(open, asked, state)));
    return tag;
  };

  /** @returns undefined where the caller has it already */
  const answer = async (open: Open, request: Request, response: Response): Promise<Served | undefined> => {
    const asked = readAsked(open, request);
    const { cache, access: who } = open.publication;
    const isByState = cache !== null && 'until' in cache;
    const now = isByState ? publisher.stateOf(open) : undefined;
    const has = request.headers['if-none-match'];
    const known = has === undefined || now === undefined ? undefined : publisher.tagFor(open, asked, now);
    if (known !== undefined && isSame(has, known)) {
      response.setHeader('ETag', known).setHeader('Cache-Control', cacheControl(cache, who === 'key', 0));
      response.setHeader('Cache-Status', `${cacheName}; hit; detail="as it was"`).status(304).end();
      return undefined;
    }
    const served = await publisher.answer(open, asked, now);
    const { body, type, next, state, approximate, asOf } = served.answer;
    const tag = isByState ? (state === undefined ? undefined : tagInState(open, asked, served.answer, state)) : served.answer.tag;
    if (tag !== undefined) response.setHeader('ETag', tag);
    response.setHeader('Cache-Control', cacheControl(cache, who === 'key', served.ageMs));
    response.setHeader('Cache-Status', cacheStatus(served, cache));
    if (served.how === 'hit' || served.how === 'stale') response.setHeader('Age', Math.floor(served.ageMs / 1_000));
    if (approximate !== undefined) response.setHeader(approximateHeader, approximate);
    if (asOf !== undefined) response.setHeader(asOfHeader, asOf);
    if (next !== undefined) response.setHeader('Link', `<${next}>; rel="next"`);
    if (tag !== undefined && isSame(has, tag)) {
      response.status(304).end();
      return served;
    }
    response.setHeader('Content-Type', type).setHeader('Content-Length', body.length);
    response.end(request.method === 'HEAD' ? undefined : body);
    return served;
  };

  router
    .route('/:name/form')
    .get(
      outside(async (request, response) => {
        const open = await admitted(request, response);
        const { publication, saved } = open;
        const { name, title, columns, maxRows } = publication;
        const parameters = await withNotes(hub, open);
        // What was stored before paths were checked is shown as well as it can be.
        const named = columns?.map((column) => ({ ...column, names: [...(columnNames(column.path) ?? column.path.split('.'))] })) ?? null;
        const form: PublishedForm = { name, title, parameters, columns: named, maxRows, chart: saved?.chart ?? null };
        response.setHeader('Cache-Control', 'no-cache');
        response.json(form);
      }),
    )
    .all(notAsked);

  return router;
}

const allowed = 'GET, HEAD, OPTIONS';
const cacheName = 'zesty-sieve';

const notAsked = handle((request, response) => {
  response.setHeader('Allow', allowed);
  sendProblem(response, new ServerProblem('/method', `It is asked by GET, and this is ${request.method}.`).problem, request.path);
});

/** A handler that tells those outside of a failure as much as they may know. */
function outside(work: (request: Request, response: Response) => Promise<void>) {
  return handle(async (request, response) => {
    try {
      await work(request, response);
    } catch (error) {
      if (response.headersSent) throw error;
      const { problem } = outwards(error);
      const { retryAfter, ...told } = problem;
      if (typeof retryAfter === 'number') response.setHeader('Retry-After', retryAfter);
      if (problem.status === 401) response.setHeader('WWW-Authenticate', 'Bearer realm="published"');
      response.removeHeader('ETag');
      response.setHeader('Cache-Control', 'no-store');
      // Where the failure is ours, the log says more.
      if (problem.status === 500) throw error;
      sendProblem(response, told as typeof problem, request.path);
    }
  });
}

/** What a call asks for. @throws ServerProblem with everything that is wrong with it */
function readAsked({ publication, saved }: Open, request: Request): Asked {
  const { query } = request;
  const faults: Fault[] = [];
  const read = readParameters(publication.parameters, query, (saved?.parameters ?? {}) as Asked['values']);
  if ('faults' in read) faults.push(...read.faults);
  const format = query.format ?? 'json';
  if (!formats.includes(format as Format)) faults.push({ parameter: 'format', message: `format is one of ${formats.join(', ')}.` });
  const size = wholeOf(query.size, publication.maxRows, 1, publication.maxRows);
  if (size === undefined) faults.push({ parameter: 'size', message: `size is a whole number from 1 to ${publication.maxRows}.` });
  const offset = wholeOf(query.offset, 0, 0, Number.MAX_SAFE_INTEGER);
  if (offset === undefined) faults.push({ parameter: 'offset', message: 'offset is a whole number, 0 or more.' });
  if (faults.length > 0 || 'faults' in read || size === undefined || offset === undefined)
    throw new ServerProblem('/parameters', faults.map(({ message }) => message).join(' '), { faults });
  const addressFrom = (from: number): string => {
    const [path = '', text = ''] = request.originalUrl.split('?');
    const parameters = new URLSearchParams(text);
    parameters.set('offset', String(from));
    return `${path}?${parameters.toString()}`;
  };
  return { values: read.values, format: format as Format, offset, size, addressFrom };
}

function wholeOf(given: unknown, usual: number, least: number, most: number): number | undefined {
  if (given === undefined) return usual;
  const value = typeof given === 'string' && /^\d+$/.test(given) ? Number(given) : NaN;
  return value >= least && value <= most ? value : undefined;
}

/** RFC 9110, 13.1.2: by weak comparison. */
function isSame(given: string | undefined, tag: string): boolean {
  return given !== undefined && (given.trim() === '*' || given.split(',').some((one) => one.trim().replace(/^W\//, '') === tag));
}

/** RFC 9111, 5.2.2, and RFC 5861, 3: what is left of the time for which an answer is fresh. */
function cacheControl(cache: PublicationCache | null, isPrivate: boolean, ageMs: number): string {
  const own = isPrivate ? 'private, ' : '';
  if (cache === null) return `${own}no-store`;
  if ('until' in cache) return `${own}no-cache`;
  const left = Math.max(0, Math.floor(cache.freshSeconds - ageMs / 1_000));
  const past = Math.max(0, ageMs / 1_000 - cache.freshSeconds);
  return `${own}max-age=${left}, stale-while-revalidate=${Math.max(0, Math.floor(cache.staleSeconds - past))}`;
}

/** RFC 9211. */
function cacheStatus({ how, ageMs, failure }: Served, cache: PublicationCache | null): string {
  if (how === 'miss') return `${cacheName}; fwd=miss${cache === null ? '' : '; stored'}`;
  if (how === 'collapsed') return `${cacheName}; fwd=miss; collapsed`;
  const ttl = cache === null || 'until' in cache ? '' : `; ttl=${Math.floor(cache.freshSeconds - ageMs / 1_000)}`;
  const failed = failure === undefined ? '' : '; detail="it could not be made anew"';
  return `${cacheName}; hit${ttl}${failed}`;
}
