import { spawn } from 'node:child_process';
import { createReadStream, statSync } from 'node:fs';
import { basename } from 'node:path';
import { Readable } from 'node:stream';
import { ZestySieve } from '../packages/client/dist/index.js';
import { say } from './steps.mjs';

const types = { ndjson: 'application/x-ndjson', jsonl: 'application/x-ndjson', json: 'application/json', csv: 'text/csv' };

/** What a file is by its name: how it is sent, and what its collection is called. */
export function kindOf(file) {
  const zipped = /\.gz$/i.test(file);
  const [, name = '', ending = ''] = /^(.*)\.([^.]+)$/.exec(basename(file).replace(/\.gz$/i, '')) ?? [];
  const type = types[ending.toLowerCase()];
  const called = name
    .replace(/[^A-Za-z0-9_-]+/g, '_')
    .replace(/^[^A-Za-z]+/, '')
    .slice(0, 60);
  return { type, zipped, name: called === '' ? 'file' : called };
}

/**
 * Loads files as scratch collections, which are gone with the server.
 * @returns the address of the Bench on the first of them
 */
export async function openFiles(address, files) {
  const client = new ZestySieve(address.split('/?')[0]);
  const opened = [];
  for (const file of files) {
    const { type, zipped, name } = kindOf(file);
    const taken = new Set((await client.collections()).map((one) => one.name));
    let free = name;
    for (let n = 2; taken.has(free); n++) free = `${name}_${n}`;
    await client.createCollection({ name: free, scratch: true });
    const body = Readable.toWeb(createReadStream(file));
    const response = await client.send(`/collections/${free}/import`, {
      method: 'POST',
      headers: { 'content-type': type, ...(zipped && { 'content-encoding': 'gzip' }) },
      body,
      duplex: 'half',
    });
    const { inserted, rejectedCount } = await response.json();
    const bytes = statSync(file).size;
    say(
      `${file}: ${inserted.toLocaleString('en')} documents in ${free} (${bytes.toLocaleString('en')} bytes${rejectedCount > 0 ? `, ${rejectedCount} lines rejected` : ''}); gone when this ends`,
    );
    opened.push(free);
  }
  return opened.length === 0 ? address : `${address.split('/?')[0]}/bench?text=${encodeURIComponent(`from ${opened[0]}\n`)}`;
}

/** Opens an address in the browser that the system names. */
export function openInBrowser(address) {
  const [command, ...args] = { darwin: ['open'], win32: ['cmd', '/c', 'start', ''] }[process.platform] ?? ['xdg-open'];
  spawn(command, [...args, address], { stdio: 'ignore', detached: true })
    .on('error', () => say('No browser could be opened: open the address above.'))
    .unref();
}
