import { createHash, randomBytes, timingSafeEqual } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { isIPv4 } from 'node:net';
import { hostname, networkInterfaces } from 'node:os';
import type { Request, RequestHandler, Response } from 'express';
import { ServerProblem } from '../problem.ts';
import type { PublishedAccess } from '../routes/published.ts';

/** The names by which this server may be called, and the token that it wants; null where only this machine can reach it. */
export interface Access {
  readonly hosts: ReadonlySet<string>;
  readonly token: string | null;
}

const loopbackNames = ['localhost', '127.0.0.1', '[::1]'];
const cookieName = 'zesty-sieve-token';

export function isLoopback(host: string): boolean {
  return host === 'localhost' || host === '::1' || (isIPv4(host) && host.startsWith('127.'));
}

/** Who may ask a server that listens on an address: off this machine's own, whoever has the token that is made at the first start. */
export function accessFor(host: string, tokenFile: string): Access {
  const hosts = new Set([...loopbackNames, named(host)]);
  if (isLoopback(host)) return { hosts, token: null };
  const own = Object.values(networkInterfaces()).flatMap((addresses) => (addresses ?? []).map(({ address }) => named(address)));
  for (const name of [hostname().toLowerCase(), ...own]) hosts.add(name);
  return { hosts, token: tokenOf(tokenFile) };
}

/** An address as it stands in the authority of a URL (RFC 3986, 3.2.2). */
function named(address: string): string {
  return address.includes(':') ? `[${address.toLowerCase()}]` : address.toLowerCase();
}

function tokenOf(file: string): string {
  if (existsSync(file)) {
    const token = readFileSync(file, 'utf8').trim();
    if (token !== '') return token;
  }
  const token = randomBytes(24).toString('base64url');
  writeFileSync(file, `${token}\n`, { mode: 0o600 });
  return token;
}

/**
 * Lets in only requests that name this server as their host, and only pages that came from it: the same scheme, host and
 * port (RFC 6454), so that a page from elsewhere in the same browser cannot reach the data (DNS rebinding, cross-site requests). A browser says
 * where a request comes from (W3C Fetch Metadata); from elsewhere it may only be led to the page.
 */
export function checkOrigin({ hosts }: Access): RequestHandler {
  return (request, _response, next) => {
    const { origin, 'sec-fetch-site': site } = request.headers;
    const host = refuseOtherHosts({ hosts }, request.headers.host);
    if (origin !== undefined && origin !== `http://${host.toLowerCase()}`)
      throw new ServerProblem('/forbidden-origin', `Pages from ${origin} may not use this server.`);
    if (site !== undefined && site !== 'same-origin' && site !== 'none' && !isLedToPage(request))
      throw new ServerProblem('/forbidden-origin', 'Pages from elsewhere may not use this server.');
    next();
  };
}

/** @throws ServerProblem where a request names another host than this server's */
function refuseOtherHosts({ hosts }: Pick<Access, 'hosts'>, host: string | undefined): string {
  if (host !== undefined && hosts.has(host.replace(/:\d+$/, '').toLowerCase())) return host;
  throw new ServerProblem(
    '/forbidden-origin',
    `This server does not answer for the host ${host ?? 'of no name'}. Name it in HOST to allow it.`,
  );
}

/** Whether somebody followed a link to the interface. */
function isLedToPage({ method, headers, path }: Request): boolean {
  return (
    method === 'GET' && headers['sec-fetch-mode'] === 'navigate' && headers['sec-fetch-dest'] === 'document' && !/^\/api(\/|$)/i.test(path)
  );
}

/**
 * Wants the token, where there is one: of programs in Authorization (RFC 6750), of the page in a cookie, which it gets by the
 * address that is printed at the start.
 */
export function checkToken({ token }: Access): RequestHandler {
  if (token === null) return (_request, _response, next) => next();
  return (request, response, next) => {
    const given = request.query.token;
    if (typeof given === 'string' && !request.path.startsWith('/api') && isSame(given, token)) {
      response.cookie(cookieName, token, { httpOnly: true, sameSite: 'strict', path: '/', maxAge: 365 * 24 * 3600 * 1000 });
      // The address without it: it shall not stand in histories.
      response.redirect(303, request.path);
      return;
    }
    const bearer = bearerOf(request.headers.authorization) ?? cookieIn(request.headers.cookie);
    if (bearer !== undefined && isSame(bearer, token)) next();
    else if (request.path.startsWith('/api')) refuse(response);
    else askForToken(response);
  };
}

function refuse(response: Response): never {
  response.setHeader('WWW-Authenticate', 'Bearer realm="Zesty Sieve"');
  throw new ServerProblem(
    '/unauthorized',
    'This server wants a token: Authorization: Bearer …, as printed with its address when it started.',
  );
}

function askForToken(response: Response): void {
  response
    .status(401)
    .type('html')
    .send(
      '<!doctype html><title>Zesty Sieve</title><h1>A token is wanted</h1><p>Open the address that the server printed when it started: it ends with <code>?token=…</code>. This browser remembers it then.</p>',
    );
}

const bearerOf = (authorization: string | undefined): string | undefined => /^Bearer (.+)$/i.exec(authorization ?? '')?.[1];

function cookieIn(cookies: string | undefined): string | undefined {
  const pairs = (cookies ?? '').split(';').map((pair) => pair.trim().split('='));
  return pairs.find(([name]) => name === cookieName)?.[1];
}

/** In a time that tells nothing of where two differ. */
function isSame(given: string, token: string): boolean {
  const digest = (text: string) => createHash('sha256').update(text).digest();
  return timingSafeEqual(digest(given), digest(token));
}

/** Published answers on the listener of those who work here: its hosts alone, and what is open is open to whoever has the token. */
export function publishedHere(access: Access): PublishedAccess {
  return {
    isOwnOrigin: ({ headers: { host } }, origin) => host !== undefined && origin === `http://${host.toLowerCase()}`,
    admit: ({ headers }, response, isOpen) => {
      refuseOtherHosts(access, headers.host);
      if (!isOpen) return;
      if (access.token === null || isSame(bearerOf(headers.authorization) ?? cookieIn(headers.cookie) ?? '', access.token)) return;
      refuse(response);
    },
  };
}

/** On a listener for others every host will do, and what is open is open to all. */
export const publishedToAll: PublishedAccess = {
  isOwnOrigin: ({ headers: { host } }, origin) =>
    host !== undefined && /^https?:\/\//.test(origin) && origin.replace(/^https?:\/\//, '') === host.toLowerCase(),
  admit: () => undefined,
};
