import type { RequestHandler } from 'express';
import { ServerProblem } from '../problem.ts';

/**
 * Lets in only requests that name this server as their host, and only pages that came from it, so that a page from
 * elsewhere in the same browser cannot reach the data (DNS rebinding, cross-site requests).
 */
export function checkOrigins(allowedHosts: ReadonlySet<string>): RequestHandler {
  const isAllowed = (host: string) => allowedHosts.has(host.replace(/:\d+$/, '').toLowerCase());
  return (request, _response, next) => {
    const { host, origin } = request.headers;
    if (host === undefined || !isAllowed(host)) {
      throw new ServerProblem(
        '/forbidden-origin',
        `This server does not answer for the host ${host ?? 'of no name'}. Name it in HOST to allow it.`,
      );
    }
    if (origin !== undefined && (!URL.canParse(origin) || !isAllowed(new URL(origin).host))) {
      throw new ServerProblem('/forbidden-origin', `Pages from ${origin} may not use this server.`);
    }
    next();
  };
}
