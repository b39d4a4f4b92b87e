import { join } from 'node:path';
import { build, install, root, run, say, startServer } from './steps.mjs';

const scale = process.argv.find((argument) => argument.startsWith('--scale='))?.slice('--scale='.length) ?? '1';

install();
build();
const { child, address } = startServer({ ZESTY_SIEVE_DB: process.env.ZESTY_SIEVE_DB ?? join(root, 'data/demo.db') });
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => child.kill(signal));
child.on('exit', (code) => process.exit(code ?? 0));
const at = await address;
say('Making the demo data: the Alder Pass hut network');
run(process.execPath, ['demo/dist/main.js', at, scale]);
say(`\nOpen ${at}\nCtrl+C ends it.`);
