import { install, run } from './steps.mjs';

install();
run(process.execPath, ['node_modules/typescript/bin/tsc', '-b']);
const given = process.argv.slice(2);
const file = given.includes('--costs')
  ? 'costs'
  : given.includes('--fair')
    ? 'fair'
    : given.includes('--search')
      ? 'search'
      : given.includes('--vectors')
        ? 'vectors'
        : given.includes('--published')
          ? 'published'
          : given.includes('--views')
            ? 'views'
            : 'main';
run(process.execPath, ['--max-old-space-size=6144', '--expose-gc', `scripts/bench/${file}.mjs`, ...given]);
