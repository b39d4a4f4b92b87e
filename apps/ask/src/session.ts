import { formats, isFormat, tableRows, writeRows, type Format } from './output.ts';
import { readStatement } from './question.ts';
import { Refused, type Answer, type Server } from './server.ts';
import { costText, helpText, planText, problemText } from './told.ts';

/** Where rows go, and where everything else does. */
export interface Streams {
  readonly out: NodeJS.WritableStream;
  readonly err: NodeJS.WritableStream;
}

/** One after another's questions, with what holds between them: the format, and the last answer. */
export class Session {
  format: Format;
  private readonly server: Server;
  private readonly streams: Streams;
  private last: Answer | undefined;
  private running: AbortController | undefined;

  constructor(server: Server, format: Format, streams: Streams) {
    this.server = server;
    this.format = format;
    this.streams = streams;
  }

  /** Ends the run that is under way. Gives whether there was one. */
  cancel(): boolean {
    const { running } = this;
    running?.abort();
    return running !== undefined;
  }

  /** Does what a text asks for. Gives whether it could be done, or that the session ends. */
  async take(text: string): Promise<'done' | 'refused' | 'quit'> {
    const statement = readStatement(text);
    switch (statement.kind) {
      case 'nothing':
        return 'done';
      case 'quit':
        return 'quit';
      case 'help':
        return this.say(helpText);
      case 'plan':
        return this.say(this.last === undefined ? 'Nothing has been asked yet.' : planText(this.last.plan));
      case 'format':
        if (!isFormat(statement.format)) return this.refuse(`Formats are ${formats.join(', ')}.`);
        this.format = statement.format;
        return this.say(`Rows are written as ${this.format}.`);
      case 'question':
        return this.answer(statement.question);
    }
  }

  private async answer(question: Parameters<Server['ask']>[0]): Promise<'done' | 'refused'> {
    const running = new AbortController();
    this.running = running;
    try {
      const answer = await this.server.ask(question, this.format === 'table' ? tableRows : 0, running.signal);
      this.last = answer;
      await writeRows(this.server, answer, this.format, (rows) => this.write(rows), running.signal);
      for (const { message } of 'diagnostics' in answer ? answer.diagnostics : []) this.streams.err.write(`note: ${message}\n`);
      if (this.format === 'table') this.streams.err.write(`${costText(answer)}\n`);
      return 'done';
    } catch (error) {
      if (running.signal.aborted) return this.refuse('The run was ended.');
      if (error instanceof Refused) return this.refuse(problemText(error.problem, 'sql' in question ? question.sql : question.pipeline));
      throw error;
    } finally {
      this.running = undefined;
    }
  }

  private say(text: string): 'done' {
    this.streams.err.write(`${text}\n`);
    return 'done';
  }
  private refuse(text: string): 'refused' {
    this.streams.err.write(`${text}\n`);
    return 'refused';
  }

  /** Waits where whoever reads takes longer. */
  private write(text: string): Promise<void> {
    if (this.streams.out.write(text)) return Promise.resolve();
    return new Promise((resolve) => this.streams.out.once('drain', resolve));
  }
}
