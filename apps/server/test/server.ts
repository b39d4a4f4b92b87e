import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const root = join(__dirname, '../../..');

/** Where a thread is to go wrong, and how. */
export interface Fault {
  readonly service: 'storage' | 'engine';
  readonly method?: string;
  readonly sql?: string;
  readonly when: 'before' | 'after';
  readonly what: 'fail' | 'stall' | 'block' | 'die';
}

/** A server of its own on a free port, over a database file of its own. */
export class TestServer {
  readonly folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-'));
  address = '';
  /** What it wrote to standard error. */
  said = '';
  /** What this start of it wrote to standard output. */
  wrote = '';
  private child: ChildProcess | undefined;

  /** @param entry what is started: the server as it is, or one whose threads can be made to fail */
  async start(environment: Record<string, string> = {}, entry: 'dist/main.js' | 'test/faulty/main.mjs' = 'dist/main.js'): Promise<this> {
    const child = spawn(process.execPath, [join(root, 'apps/server', entry)], {
      env: {
        ...process.env,
        HOST: '127.0.0.1',
        PORT: '0',
        ZESTY_SIEVE_DB: join(this.folder, 'test.db'),
        ZESTY_SIEVE_DATABASES: join(this.folder, 'databases'),
        FAULT_FILE: join(this.folder, 'fault.json'),
        ...environment,
      },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    this.child = child;
    child.stderr?.on('data', (piece: Buffer) => {
      this.said += piece.toString();
      process.stderr.write(piece);
    });
    this.wrote = '';
    this.address = await new Promise((resolve, reject) => {
      child.stdout?.on('data', (piece: Buffer) => {
        this.wrote += piece.toString();
        const found = /http:\/\/\S+/.exec(this.wrote);
        if (found) resolve(found[0]);
      });
      child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
    });
    return this;
  }

  /** Ends the process at once, as a power cut would. */
  async kill(signal: NodeJS.Signals = 'SIGKILL'): Promise<void> {
    const { child } = this;
    if (child === undefined || child.exitCode !== null || child.signalCode !== null) return;
    await new Promise((resolve) => {
      child.once('exit', resolve);
      child.kill(signal);
    });
  }

  /** The process's memory as the system counts it, in megabytes. */
  get residentMegabytes(): number {
    const status = readFileSync(`/proc/${this.child?.pid}/status`, 'utf8');
    return Number(/VmRSS:\s+(\d+)/.exec(status)?.[1]) / 1024;
  }

  /** Makes a server with faulty threads fail the next time that it comes there. */
  plant(fault: Fault): void {
    writeFileSync(join(this.folder, 'fault.json'), JSON.stringify(fault));
  }

  /** Whether it has come there. */
  get hasFailed(): boolean {
    return !existsSync(join(this.folder, 'fault.json'));
  }

  async remove(): Promise<void> {
    await this.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }

  async call<T = Record<string, unknown>>(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<{ status: number; body: T; headers: Headers }> {
    const raw = typeof body === 'string' || body instanceof Uint8Array;
    const response = await fetch(`${this.address}/api${path}`, {
      method,
      headers: { ...(body !== undefined && !raw && { 'content-type': 'application/json' }), ...headers },
      ...(body !== undefined && { body: raw ? (body as NonNullable<RequestInit['body']>) : JSON.stringify(body) }),
    });
    const text = await response.text();
    const isJson =
      (response.headers.get('content-type') ?? '').includes('json') && !(response.headers.get('content-type') ?? '').includes('ndjson');
    return { status: response.status, body: (isJson && text !== '' ? JSON.parse(text) : text) as T, headers: response.headers };
  }
}
