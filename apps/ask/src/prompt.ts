import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { homedir } from 'node:os';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { Completing } from './completing.ts';
import { isComplete } from './question.ts';
import type { Server } from './server.ts';
import type { Session } from './session.ts';

const historyFile = join(homedir(), '.zesty-sieve-history');
const historySize = 500;

/** Asks line by line until it is told to quit, or its input ends. */
export async function prompt(session: Session, server: Server): Promise<void> {
  const completing = new Completing(server);
  let written = '';
  const lines = createInterface({
    input: process.stdin,
    output: process.stdout,
    prompt: 'ask> ',
    history: keptHistory(),
    historySize,
    removeHistoryDuplicates: true,
    completer: (line: string, done: (error: null, found: [string[], string]) => void) =>
      void completing.complete(written, line).then((found) => done(null, found)),
  });
  const ready = (): void => {
    lines.setPrompt(written === '' ? 'ask> ' : '...> ');
    lines.prompt();
  };
  lines.on('history', (history: string[]) => keepHistory(history));
  lines.on('SIGINT', () => {
    if (session.cancel()) return;
    // What is being written is dropped; at an empty line, how one leaves is said.
    if (written === '' && lines.line === '') process.stdout.write('\nquit; or Ctrl D leaves.');
    written = '';
    lines.write(null, { ctrl: true, name: 'u' });
    process.stdout.write('\n');
    ready();
  });
  process.stdout.write('Questions in SQL or the notation, ended by ; or an empty line. help; tells more.\n');
  ready();
  for await (const line of lines) {
    const isEnd = line.trim() === '' && written.trim() !== '';
    written += isEnd ? '' : `${line}\n`;
    if (isEnd || isComplete(written)) {
      const text = written;
      written = '';
      if ((await session.take(text)) === 'quit') break;
    }
    if (written.trim() === '') written = '';
    ready();
  }
  lines.close();
}

function keptHistory(): string[] {
  return existsSync(historyFile) ? readFileSync(historyFile, 'utf8').split('\n').filter(Boolean) : [];
}

function keepHistory(history: readonly string[]): void {
  try {
    writeFileSync(historyFile, history.slice(0, historySize).join('\n'), { mode: 0o600 });
  } catch {
    // Where nothing can be kept, the history is that of this session.
  }
}
