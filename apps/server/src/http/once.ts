import { createHash } from 'node:crypto';
import type { Request } from 'express';
import { ServerProblem } from '../problem.ts';
import type { Once } from '../threads/messages.ts';

const longestKey = 255;

/**
 * What makes a write one that is made once: the Idempotency-Key that it carries (IETF draft of the HTTP API working group);
 * undefined where it carries none.
 * @param body what it is to be made with, or a digest of it
 */
export function onceOf(request: Request, body: string | Uint8Array): Once | undefined {
  const key = request.headers['idempotency-key'];
  if (key === undefined) return undefined;
  if (typeof key !== 'string' || key.trim() === '' || key.length > longestKey)
    throw new ServerProblem('/request', `An Idempotency-Key has 1 to ${longestKey} characters.`);
  const fingerprint = createHash('sha256').update(`${request.method} ${request.originalUrl}\n`).update(body).digest('base64url');
  return { key, fingerprint };
}

/** The same of a request whose body has been read as JSON. */
export function onceOfJson(request: Request): Once | undefined {
  return request.headers['idempotency-key'] === undefined ? undefined : onceOf(request, JSON.stringify(request.body ?? null));
}
