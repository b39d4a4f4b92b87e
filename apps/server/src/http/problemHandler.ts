import type { ErrorRequestHandler, Request, RequestHandler, Response } from 'express';
import type { Logger } from 'pino';
import type { Problem } from '@zesty-sieve/contract';
import { ServerProblem } from '../problem.ts';

/** Answers with Problem Details (RFC 9457). What is nobody's fault but ours is logged, and not shown. */
export function problemHandler(log: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, _next) => {
    if (response.headersSent) {
      // It has its answer: that the rest of what was sent is not wanted is no failure.
      if (response.writableEnded || response.destroyed) return;
      // Whoever reads the stream must see that it is not complete.
      log.error({ err: error, ...askedBy(request) }, 'failed while answering');
      response.destroy();
      return;
    }
    // Nobody is there to be told, and it is known what it is: that it has been closed, most often.
    if (response.destroyed && error instanceof ServerProblem) return;
    const problem = problemFrom(error);
    if (problem.status >= 500) log.error({ err: error, ...askedBy(request) }, problem.detail ?? problem.title);
    sendProblem(response, problem, request.originalUrl);
  };
}

export function sendProblem(response: Response, problem: Problem, instance: string): void {
  response
    .status(problem.status)
    .type('application/problem+json')
    .send(JSON.stringify({ ...problem, instance }));
}

/** What was asked, as far as a log wants to know it. */
function askedBy({ method, originalUrl, body }: Request): Record<string, unknown> {
  const asked = body === undefined ? undefined : JSON.stringify(body);
  return { method, url: originalUrl, ...(asked !== undefined && { asked: asked.slice(0, loggedOfBody) }) };
}

/** Characters of a body that go into the log. */
const loggedOfBody = 20_000;

export function problemFrom(error: unknown): ServerProblem['problem'] {
  if (error instanceof ServerProblem) return error.problem;
  // Express's own readers of bodies.
  const { type, message } = error as { type?: string; message?: string };
  if (type === 'entity.too.large') return new ServerProblem('/too-large', 'A JSON body may have 64 MB.').problem;
  if (type === 'request.aborted') return new ServerProblem('/malformed', 'The body was not sent to its end.').problem;
  if (type === 'encoding.unsupported') return new ServerProblem('/media-type', `A body is not sent so: ${message}.`).problem;
  if (type === 'entity.parse.failed') return new ServerProblem('/malformed', `The body is no JSON: ${message}`).problem;
  if (error instanceof URIError) return new ServerProblem('/request', 'The address is not well-formed.').problem;
  return new ServerProblem('/internal', 'The server failed at this; its log says more.').problem;
}

export const notFound: RequestHandler = (request) => {
  throw new ServerProblem('/not-found', `There is nothing at ${request.method} ${request.path}.`);
};
