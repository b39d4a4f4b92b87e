import { createHash, randomUUID } from 'node:crypto';
import { mkdir, open, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Request } from 'express';
import { ServerProblem } from '../problem.ts';
import { bodyPieces } from './bodyPieces.ts';

/** Where files lie while they come in. What an earlier process left there is of no use. */
export class Uploads {
  private readonly folder: string;
  constructor(folder: string) {
    this.folder = folder;
  }

  async begin(): Promise<void> {
    await rm(this.folder, { recursive: true, force: true });
    await mkdir(this.folder, { recursive: true, mode: 0o700 });
  }

  /**
   * Takes a request's body to the side, as fast as it comes and the disk takes it, and works with the file.
   * @param onBytes told how much has come
   * @throws ServerProblem where it does not come to its end
   */
  async aside<T>(request: Request, onBytes: (bytes: number) => void, work: (file: string, digest: string) => Promise<T>): Promise<T> {
    const path = join(this.folder, randomUUID());
    try {
      const digest = await taken(request, path, onBytes);
      return await work(path, digest);
    } finally {
      await rm(path, { force: true });
    }
  }
}

async function taken(request: Request, path: string, onBytes: (bytes: number) => void): Promise<string> {
  const hash = request.headers['idempotency-key'] === undefined ? undefined : createHash('sha256');
  const file = await open(path, 'wx', 0o600);
  let bytes = 0;
  try {
    for await (const piece of bodyPieces(request)) {
      await file.writeFile(piece);
      hash?.update(piece);
      bytes += piece.length;
      onBytes(bytes);
    }
  } catch (error) {
    if ((error as { code?: string }).code === 'ENOSPC')
      throw new ServerProblem('/too-large', 'The disk has no room for the file. Nothing was stored.');
    throw error;
  } finally {
    await file.close();
  }
  if (!request.complete) throw new ServerProblem('/malformed', 'The file was not sent to its end. Nothing was stored.');
  return hash?.digest('base64url') ?? '';
}
