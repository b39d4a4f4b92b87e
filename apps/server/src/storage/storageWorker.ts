import { parentPort } from 'node:worker_threads';
import * as Comlink from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { StorageService } from './storageService.ts';

if (parentPort === null) throw new Error('the storage runs in a thread of its own');
Comlink.expose(new StorageService(), nodeEndpoint(parentPort));
