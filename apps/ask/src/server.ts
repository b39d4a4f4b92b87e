import { ZestySieve, ZestySieveProblem } from '@zesty-sieve/client';
import type { Problem, QueryAnswer, Shape, SqlAnswer } from '@zesty-sieve/contract';
import type { Json } from '@zesty-sieve/core/language';

/** A fault that the server tells, or that there is none to be reached. */
export class Refused extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super(problem.detail ?? problem.title);
    this.problem = problem;
  }
}

export type Answer = QueryAnswer | SqlAnswer;
export type Rows = 'ndjson' | 'json' | 'csv';

/** The server that is asked. */
export class Server {
  private readonly address: string;
  private readonly client: ZestySieve;

  constructor(address: string) {
    this.address = address.replace(/\/+$/, '');
    this.client = new ZestySieve(this.address);
  }

  /** @throws Refused */
  private async fetch(path: string, options: RequestInit = {}): Promise<Response> {
    try {
      return await this.client.send(path, options);
    } catch (error) {
      if (error instanceof ZestySieveProblem) throw new Refused(error.problem);
      if (options.signal?.aborted) throw error;
      const why = (error as { cause?: Error }).cause?.message ?? (error as Error).message;
      const detail = `No server answers at ${this.address} (${why}). Start one with npm start, or name another with --at.`;
      throw new Refused({ type: '/problems/unreachable', title: 'No server', status: 0, detail });
    }
  }

  /** Answers a question in SQL or in the notation. Where the signal is given up, the run is ended there too. */
  async ask(question: { readonly sql: string } | { readonly pipeline: string }, pageSize: number, signal: AbortSignal): Promise<Answer> {
    const response = await this.fetch('sql' in question ? '/sql' : '/query', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ ...question, pageSize }),
      signal,
    });
    return (await response.json()) as Answer;
  }

  /** A page of the rows of a run. */
  async rows(runId: string, offset: number, size: number, signal: AbortSignal): Promise<readonly Json[]> {
    const response = await this.fetch(`/runs/${runId}/rows?offset=${offset}&size=${size}`, { signal });
    return ((await response.json()) as { documents: Json[] }).documents;
  }

  /** All rows of a run, as they come. */
  async stream(runId: string, format: Rows, signal: AbortSignal): Promise<AsyncIterable<Uint8Array>> {
    const { body } = await this.fetch(`/runs/${runId}/rows.${format}`, { signal });
    return body as unknown as AsyncIterable<Uint8Array>;
  }

  /** The names that there are. */
  async names(): Promise<string[]> {
    const { documents } = await this.ask({ sql: 'SHOW TABLES' }, 1_000, AbortSignal.timeout(5_000));
    return documents.map((row) => (row as { name: string }).name);
  }

  async shape(name: string): Promise<Shape> {
    const response = await this.fetch(`/collections/${encodeURIComponent(name)}/shape`, { signal: AbortSignal.timeout(10_000) });
    return (await response.json()) as Shape;
  }
}
