import { spawn } from 'node:child_process';
import { install, root, run } from './steps.mjs';

install();
run(process.execPath, ['node_modules/typescript/bin/tsc', '-b']);
const environment = { ...process.env, PORT: process.env.PORT ?? '4747' };
const parts = [
  ['node_modules/typescript/bin/tsc', '-b', '--watch', '--preserveWatchOutput'],
  ['--watch', 'apps/server/dist/main.js'],
  ['../../node_modules/vite/bin/vite.js'],
];
const children = parts.map((args, i) =>
  spawn(process.execPath, args, { cwd: i === 2 ? `${root}/apps/web` : root, env: environment, stdio: 'inherit' }),
);
const stop = () => children.forEach((child) => child.kill());
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
