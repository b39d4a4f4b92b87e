import type { Request } from 'express';

/**
 * A request's body as it comes, only as fast as it is taken. It ends where the body does, and also where nothing comes any more:
 * when the connection has gone, or the request has been answered meanwhile, of which Node tells the reader nothing. Whoever reads
 * looks at `request.complete` then. To stop reading does not cut the connection, and the answer with it.
 */
export async function* bodyPieces(request: Request): AsyncGenerator<Buffer> {
  const isOver = (): boolean =>
    request.readableEnded || request.destroyed || request.socket.destroyed || request.res?.writableEnded === true;
  for (;;) {
    const piece = request.read() as Buffer | null;
    if (piece !== null) yield piece;
    else if (isOver()) return;
    else await somethingHappens(request);
  }
}

function somethingHappens(request: Request): Promise<void> {
  return new Promise((resolve) => {
    const happened = (): void => {
      for (const name of ['readable', 'end', 'error', 'close']) request.off(name, happened);
      request.socket.off('close', happened);
      request.res?.off('finish', happened);
      resolve();
    };
    for (const name of ['readable', 'end', 'error', 'close']) request.on(name, happened);
    request.socket.once('close', happened);
    request.res?.once('finish', happened);
  });
}
