import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const server = fileURLToPath(new URL(import.meta.url.includes('/dist/') ? '../../../apps/server/' : '../../apps/server/', import.meta.url));

export interface Answer {
  /** 0 where there was none. */
  readonly status: number;
  readonly body: Record<string, unknown>;
  readonly text: string;
}

/** A server over a file of its own, stopped and begun again at will. */
export class Served {
  private readonly folder = mkdtempSync(join(tmpdir(), 'zesty-sieve-story-'));
  private child: ChildProcess | undefined;
  address = '';

  /** @param isFaulty whether its threads can be made to fail by `plant` */
  async start(isFaulty = false, environment: Record<string, string> = {}): Promise<void> {
    const child = spawn(process.execPath, [join(server, isFaulty ? 'test/faulty/main.mjs' : 'dist/main.js')], {
      env: {
        ...process.env,
        HOST: '127.0.0.1',
        PORT: '0',
        ZESTY_SIEVE_DB: join(this.folder, 'story.db'),
        FAULT_FILE: join(this.folder, 'fault.json'),
        ...environment,
      },
      stdio: ['ignore', 'pipe', isFaulty ? 'ignore' : 'inherit'],
    });
    this.child = child;
    this.address = await new Promise((resolve, reject) => {
      child.stdout.on('data', (piece: Buffer) => {
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
