import { install, run } from './steps.mjs';

install();
run(process.execPath, ['node_modules/typescript/bin/tsc', '-b']);
run(process.execPath, ['--max-old-space-size=4096', '--expose-gc', 'tests/torture/dist/main.js', ...process.argv.slice(2)]);
