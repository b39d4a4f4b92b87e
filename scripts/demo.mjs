import { join } from 'node:path';
import { build, install, keepServer, root, run, say } from './steps.mjs';

const scale = process.argv.find((argument) => argument.startsWith('--scale='))?.slice('--scale='.length) ?? '1';

install();
build();
const at = await keepServer({ ZESTY_SIEVE_DB: process.env.ZESTY_SIEVE_DB ?? join(root, 'data/demo.db') });
say('Making the demo data: the Alder Pass hut network');
run(process.execPath, ['demo/dist/main.js', at, scale]);
say(`\nOpen ${at}\nCtrl+C ends it.`);
