import { run } from './steps.mjs';

run(process.execPath, ['apps/server/dist/main.js']);
