import { install, run } from './steps.mjs';

install();
run(process.execPath, ['node_modules/typescript/bin/tsc', '-b']);
run(process.execPath, ['--max-old-space-size=6144', '--expose-gc', 'scripts/bench/main.mjs', ...process.argv.slice(2)]);
