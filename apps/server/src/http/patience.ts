import type { Request, RequestHandler, Response } from 'express';
import { ServerProblem } from '../problem.ts';
import { sendProblem } from './problemHandler.ts';

export interface Patience {
  /** How long a client may send nothing amid its request, or read nothing of its answer. */
  readonly silenceMs: number;
  /** Bytes that are read and thrown away of a request that has its answer already. */
  readonly discardedBytes: number;
  /** And how long that may take. */
  readonly discardingMs: number;
}

export const usualPatience: Patience = { silenceMs: 30_000, discardedBytes: 1024 * 1024 * 1024, discardingMs: 60_000 };

const discardLookMs = 100;

/**
 * Every stream has an end. A client that stops sending amid its request is told so and let go; one that is answered while it
 * is still sending gets to read the answer, since what it sends is read on and thrown away, up to a bound; one that does not read its
 * answer is let go too.
 */
export function withPatience({ silenceMs, discardedBytes, discardingMs }: Patience): RequestHandler {
  return (request, response, next) => {
    const { socket } = request;
    response.setTimeout(silenceMs, () => {
      const isSilent = !request.complete && !isWaitingForUs(request);
      if (isSilent && !response.headersSent) giveUp(request, response, silenceMs);
      else if (isSilent || response.writableLength > 0) socket.destroy();
      // It is us who are at work: the run has a guard of its own.
      else socket.setTimeout(silenceMs);
    });
    response.on('finish', () => {
      if (!request.complete) discard(request, discardedBytes, discardingMs);
    });
    next();
  };
}

/** Reads on what is not wanted any more, so that the answer can be read before the connection ends. */
function discard(request: Request, mostBytes: number, mostMs: number): void {
  const { socket } = request;
  const from = socket.bytesRead;
  const until = Date.now() + mostMs;
  request.resume();
  const timer = setInterval(() => {
    if (request.complete || socket.destroyed) clearInterval(timer);
    else if (socket.bytesRead - from > mostBytes || Date.now() > until) socket.destroy();
  }, discardLookMs);
  timer.unref();
}

/** What has come lies here and is not taken: it is us who are slow. */
function isWaitingForUs(request: Request): boolean {
  return request.readableLength >= request.readableHighWaterMark;
}

function giveUp(request: Request, response: Response, silenceMs: number): void {
  if (response.headersSent) {
    request.socket.destroy();
    return;
  }
  response.on('finish', () => request.socket.destroySoon());
  response.setHeader('Connection', 'close');
  sendProblem(
    response,
    new ServerProblem('/silent', `Nothing came for ${Math.round(silenceMs / 1000)} s before the request was whole. Nothing was stored.`)
      .problem,
    request.originalUrl,
  );
}
