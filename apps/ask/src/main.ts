import { parseArgs } from 'node:util';
import { text as textOf } from 'node:stream/consumers';
import { formats, isFormat } from './output.ts';
import { prompt } from './prompt.ts';
import { statementsIn } from './question.ts';
import { Server } from './server.ts';
import { Session } from './session.ts';
import { helpText } from './told.ts';

const usage = `npm run ask                                     a prompt on a running server
npm run --silent ask -- "SELECT …" --format csv  answers once, and ends
npm run --silent ask -- < question.sql           the same, from a file

  --at ADDRESS     the server; http://127.0.0.1:4747 unless it is said
  --format FORMAT  ${formats.join(', ')}; a table unless it is said

${helpText}
`;

async function main(): Promise<number> {
  const { values, positionals } = parseArgs({
    allowPositionals: true,
    options: { at: { type: 'string' }, format: { type: 'string' }, help: { type: 'boolean', short: 'h' } },
  });
  if (values.help) {
    process.stdout.write(usage);
    return 0;
  }
  const format = values.format ?? 'table';
  if (!isFormat(format)) {
    process.stderr.write(`Formats are ${formats.join(', ')}.\n`);
    return 2;
  }
  const server = new Server(values.at ?? 'http://127.0.0.1:4747');
  const session = new Session(server, format, { out: process.stdout, err: process.stderr });
  // Whoever has read enough closes the pipe: nothing is wrong with that.
  process.stdout.on('error', (error: NodeJS.ErrnoException) => process.exit(error.code === 'EPIPE' ? 0 : 1));
  const given = positionals.length > 0 ? positionals.join(' ') : process.stdin.isTTY ? undefined : await textOf(process.stdin);
  if (given === undefined) {
    await prompt(session, server);
    return 0;
  }
  process.once('SIGINT', () => session.cancel() || process.exit(130));
  let isRefused = false;
  for (const statement of statementsIn(given)) {
    const done = await session.take(statement);
    if (done === 'quit') break;
    isRefused ||= done === 'refused';
  }
  return isRefused ? 1 : 0;
}

main().then(
  (code) => (process.exitCode = code),
  (error: Error) => {
    process.stderr.write(`${error.message}\n`);
    process.exitCode = 2;
  },
);
