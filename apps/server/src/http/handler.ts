import type { NextFunction, Request, RequestHandler, Response } from 'express';
import type { z } from 'zod';
import { ServerProblem } from '../problem.ts';
import { bodyPieces } from './bodyPieces.ts';

/** A request handler whose failures go to the problem handler. */
export function handle(work: (request: Request, response: Response) => Promise<void> | void): RequestHandler {
  return (request: Request, response: Response, next: NextFunction) => {
    Promise.resolve(work(request, response)).catch(next);
  };
}

/** A part of the address. */
export function part(request: Request, name: string): string {
  const value = request.params[name]!;
  return Array.isArray(value) ? value.join('/') : value;
}

/** Reads data by a schema. @throws ServerProblem that names what does not fit, and where */
export function readBy<S extends z.ZodType>(schema: S, data: unknown): z.output<S> {
  const read = readAs(schema, data ?? {});
  if (read.success) return read.data;
  const problems = read.error.issues.map(({ path, message }) => (path.length === 0 ? message : `${path.join('.')}: ${message}`));
  throw new ServerProblem('/request', problems.join(' '));
}

function readAs<S extends z.ZodType>(schema: S, data: unknown): z.ZodSafeParseResult<z.output<S>> {
  try {
    return schema.safeParse(data);
  } catch (error) {
    // What is read calls itself for each level.
    if (error instanceof RangeError) throw new ServerProblem('/request', 'This is nested more deeply than can be read. 500 levels can.');
    throw error;
  }
}

/** Sends JSON text as it is. */
export function sendJson(response: Response, text: string, status = 200): void {
  response.status(status).type('application/json').send(text);
}

/** Collects a request's body, up to a bound. @throws ServerProblem beyond it, and where it is cut off */
export async function bodyOf(request: Request, limitBytes: number): Promise<Buffer> {
  const pieces: Buffer[] = [];
  let size = 0;
  for await (const piece of bodyPieces(request)) {
    size += piece.length;
    if (size > limitBytes)
      throw new ServerProblem('/too-large', `A body may have ${limitBytes / 1024 / 1024} MB. Load more than that by import.`);
    pieces.push(piece);
  }
  if (!request.complete) throw new ServerProblem('/malformed', 'The body was not sent to its end. Nothing was stored.');
  return Buffer.concat(pieces);
}

/** A request's body as JSON. @throws ServerProblem where it is none */
export async function jsonOf(request: Request): Promise<unknown> {
  const text = (await bodyOf(request, jsonLimit)).toString();
  try {
    return JSON.parse(text);
  } catch (error) {
    throw new ServerProblem('/malformed', `The body is no JSON: ${(error as Error).message}`);
  }
}

export const jsonLimit = 64 * 1024 * 1024;

/** The kind of a body, without its parameters. */
export function contentType(request: Request): string {
  return (request.headers['content-type'] ?? '').split(';')[0]!.trim().toLowerCase();
}

/** @throws ServerProblem where a body is not sent as JSON: a page from elsewhere can send other kinds unasked */
export function expectJson(request: Request): void {
  const type = contentType(request);
  if (type !== 'application/json' && !type.endsWith('+json'))
    throw new ServerProblem('/media-type', `A body is sent as application/json, and this is ${type === '' ? 'of no Content-Type' : type}.`);
}

/** Whether a request carries a body (RFC 9112, 6.3). */
export function hasBody({ headers }: Request): boolean {
  return headers['transfer-encoding'] !== undefined || Number(headers['content-length'] ?? 0) > 0;
}
