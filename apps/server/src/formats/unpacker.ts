import { createGunzip, type Gunzip } from 'node:zlib';

/**
 * Unpacks gzip as it comes. A stream that has failed calls nobody back any more, so that its failure is kept, and ends
 * whatever waits for it and all that comes after.
 */
export class Unpacker {
  private readonly gunzip: Gunzip = createGunzip();
  private readonly unpacked: Buffer[] = [];
  private readonly failed: Promise<never>;

  constructor() {
    this.failed = new Promise<never>((_, reject) => this.gunzip.once('error', reject));
    // Nobody may be waiting when it fails.
    this.failed.catch(() => undefined);
    this.gunzip.on('data', (piece: Buffer) => this.unpacked.push(piece));
  }

  /** @throws what is wrong with the data */
  async push(bytes: Uint8Array): Promise<Buffer[]> {
    await Promise.race([this.failed, new Promise<void>((resolve) => this.gunzip.write(bytes, () => resolve()))]);
    return this.unpacked.splice(0);
  }

  /** @throws what is wrong with the data, and where they are cut off */
  async end(): Promise<Buffer[]> {
    const ended = new Promise<void>((resolve) => this.gunzip.once('end', resolve));
    this.gunzip.end();
    await Promise.race([this.failed, ended]);
    return this.unpacked.splice(0);
  }
}
