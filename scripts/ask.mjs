import { existsSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { install, root, run } from './steps.mjs';

const main = join(root, 'apps/ask/dist/main.js');
if (!existsSync(main)) {
  install();
  run(process.execPath, ['node_modules/typescript/bin/tsc', '-b', 'apps/ask']);
}
process.exitCode = spawnSync(process.execPath, [main, ...process.argv.slice(2)], { stdio: 'inherit' }).status ?? 1;
