/* Servers that the bench asks over HTTP, each in a process of its own. */
import { spawn } from 'node:child_process';
import { fileURLToPath } from 'node:url';

export const root = fileURLToPath(new URL('../..', import.meta.url));

/** Starts a server. @returns where it listens, and its process */
export function started(args, env = {}) {
  const child = spawn(process.execPath, args, {
    cwd: root,
    env: { ...process.env, HOST: '127.0.0.1', PORT: '0', ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  return new Promise((resolve, reject) => {
    child.stdout.on('data', (piece) => {
      const found = /http:\/\/\S+/.exec(String(piece));
      if (found) resolve({ address: found[0], child });
    });
    child.on('exit', () => reject(new Error('a server ended')));
  });
}

/** Calls a server's API. @param body an object, or NDJSON as text */
export async function call(address, method, path, body) {
  const isText = typeof body === 'string';
  const response = await fetch(`${address}/api${path}`, {
    method,
    headers: body === undefined ? {} : { 'content-type': isText ? 'application/x-ndjson' : 'application/json' },
    body: isText || body === undefined ? body : JSON.stringify(body),
  });
  const text = await response.text();
  if (!response.ok) throw new Error(text);
  return text === '' ? undefined : JSON.parse(text);
}
