#!/usr/bin/env node
/* What `npx zesty-sieve [FILE…] [--open]` runs: the server on data below the folder that one is in, and the files that are named. */
import { resolve } from 'node:path';

process.env.ZESTY_SIEVE_DATABASES ??= resolve('zesty-sieve-data');
await import('./start.mjs');
