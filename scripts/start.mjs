import { existsSync } from 'node:fs';
import { kindOf, openFiles, openInBrowser } from './openFiles.mjs';
import { keepServer, say } from './steps.mjs';

const given = process.argv.slice(2);
const files = given.filter((one) => !one.startsWith('--'));
const unknown = given.find((one) => one.startsWith('--') && one !== '--open');
const wrong =
  unknown !== undefined
    ? `${unknown} means nothing here. It is: npm start -- [FILE…] [--open]`
    : files.flatMap((file) =>
        !existsSync(file)
          ? [`There is no file ${file}.`]
          : kindOf(file).type === undefined
            ? [`${file} is none that can be opened: it ends with .ndjson, .jsonl, .json or .csv, and perhaps .gz.`]
            : [],
      )[0];
if (wrong !== undefined) {
  process.stderr.write(`${wrong}\n`);
  process.exit(2);
}
const at = await keepServer();
say(`Zesty Sieve listens on ${at}`);
try {
  const bench = await openFiles(at, files);
  if (files.length > 0) say(`Open ${bench}`);
  if (given.includes('--open')) openInBrowser(bench);
} catch (error) {
  // The server stays: what could be opened is there.
  process.stderr.write(`${error.message}\n`);
}
