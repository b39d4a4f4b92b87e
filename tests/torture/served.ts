import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const server = fileURLToPath(new URL(import.meta.url.includes('/dist/') ? '../../../apps/server/' : '../../apps/server/', import.meta.url));

export interface Answer {
  /** 0 where there was none. */
  readonly status: number;
  readonly body: Record<string, unknown>;
  readonly text: string;
}

/** As the commands that start the server have it. */
const collectors = `--v8-pool-size=${Math.min(4, Math.max(1, availableParallelism() - 1))}`;
const entries = { plain: 'dist/main.js', faulty: 'test/faulty/main.mjs', weighed: 'test/soak/main.mjs' } as const;

/** A server over a file of its own, stopped and begun again at will. */
export class Served {
  private readonly folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-story-'));
  private child: ChildProcess | undefined;
  address = '';

  /** @param entry the server as it is, with threads that can be made to fail by `plant`, or one that can be weighed */
  async start(entry: keyof typeof entries = 'plain', environment: Record<string, string> = {}): Promise<void> {
    const child = spawn(process.execPath, [collectors, join(server, entries[entry])], {
      env: {
        ...process.env,
        HOST: '127.0.0.1',
        PORT: '0',
        ZESTY_SIEVE_DB: join(this.folder, 'story.db'),
        FAULT_FILE: join(this.folder, 'fault.json'),
        ...environment,
      },
      stdio: ['ignore', 'pipe', 'inherit', 'ipc'],
    });
    this.child = child;
    this.address = await new Promise((resolve, reject) => {
      child.stdout?.on('data', (piece: Buffer) => {
        const found = /http:\/\/\S+/.exec(piece.toString());
        if (found) resolve(found[0]);
      });
      child.on('exit', (code) => reject(new Error(`the server ended with ${code}`)));
    });
  }

  get isRunning(): boolean {
    return this.child !== undefined && this.child.exitCode === null && this.child.signalCode === null;
  }

  /** Of the process, as the system counts it. */
  get residentBytes(): number {
    const status = readFileSync(`/proc/${this.child?.pid}/status`, 'utf8');
    return Number(/VmRSS:\s+(\d+)/.exec(status)?.[1]) * 1024;
  }

  async stop(signal: NodeJS.Signals): Promise<void> {
    const { child } = this;
    if (child === undefined || !this.isRunning) return;
    await new Promise((resolve) => (child.once('exit', resolve), child.kill(signal)));
  }

  /** What each of its threads holds after collection, in bytes. */
  async collected(): Promise<{ readonly main: number; readonly storage: number; readonly engine: number }> {
    const told = new Promise<unknown>((resolve) => this.child?.once('message', resolve));
    this.child?.send('weigh');
    return (await told) as { main: number; storage: number; engine: number };
  }

  plant(fault: object): void {
    writeFileSync(join(this.folder, 'fault.json'), JSON.stringify(fault));
  }

  clearFault(): void {
    rmSync(join(this.folder, 'fault.json'), { force: true });
  }

  async remove(): Promise<void> {
    await this.stop('SIGKILL');
    rmSync(this.folder, { recursive: true, force: true });
  }

  async call(method: string, path: string, body?: unknown, type = 'application/json'): Promise<Answer> {
    const sent = body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body);
    const response = await fetch(`${this.address}/api${path}`, {
      method,
      headers: sent === undefined ? {} : { 'content-type': type },
      body: sent,
    });
    const text = await response.text();
    return {
      status: response.status,
      body: text.startsWith('{') && !text.includes('\n{') ? (JSON.parse(text) as Record<string, unknown>) : {},
      text,
    };
  }

  /** The same, where the server may go away meanwhile. */
  async tried(method: string, path: string, body?: unknown, type?: string): Promise<Answer> {
    return this.call(method, path, body, type).catch(() => ({ status: 0, body: {}, text: '' }));
  }
}
