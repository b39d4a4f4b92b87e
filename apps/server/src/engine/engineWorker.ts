import { parentPort } from 'node:worker_threads';
import * as Comlink from 'comlink';
import nodeEndpoint from 'comlink/dist/esm/node-adapter.mjs';
import { engineService } from './engineService.ts';

if (parentPort === null) throw new Error('the engine runs in a thread of its own');
Comlink.expose(engineService(), nodeEndpoint(parentPort));
