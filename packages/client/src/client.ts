import type {
  Answer,
  Body,
  collectionList,
  createCollection,
  importResult,
  inserted,
  pipelineList,
  PlanAnswer,
  PlanBody,
  Problem,
  QueryAnswer,
  QueryBody,
  rowsPage,
  savedPipeline,
  savePipeline,
  SqlAnswer,
  sqlRequest,
} from '@zesty-sieve/contract';

/** What is answered where something goes wrong: Problem Details (RFC 9457). */
export class ZestySieveProblem extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super(problem.detail ?? problem.title);
    this.name = 'ZestySieveProblem';
    this.problem = problem;
  }
  get status(): number {
    return this.problem.status;
  }
}

export interface ClientOptions {
  /** Where the server listens, such as http://127.0.0.1:4747. */
  readonly address: string;
  /** Wanted on addresses that others can reach. */
  readonly token?: string;
  /** Another database than the one that the server was started on. */
  readonly database?: string;
  /** The fetch that is used; the platform's own unless it is given. */
  readonly fetch?: typeof fetch;
}

interface Asked {
  readonly signal?: AbortSignal | undefined;
}
type Row = Record<string, unknown>;

const rowsAtOnce = 1_000;

/** A client of the HTTP API, typed by its contract. It depends on nothing but fetch. */
export class ZestySieve {
  private readonly options: ClientOptions;

  constructor(options: ClientOptions | string) {
    this.options = typeof options === 'string' ? { address: options } : options;
  }

  /** Runs a pipeline. @throws ZestySieveProblem */
  query(pipeline: string, more: Omit<QueryBody, 'pipeline'> = {}, asked: Asked = {}): Promise<QueryAnswer> {
    return this.call('POST', '/query', { pipeline, ...more }, asked);
  }

  sql(sql: string, more: Omit<Body<typeof sqlRequest>, 'sql'> = {}, asked: Asked = {}): Promise<SqlAnswer> {
    return this.call('POST', '/sql', { sql, ...more }, asked);
  }

  plan(pipeline: string, more: Omit<PlanBody, 'pipeline'> = {}): Promise<PlanAnswer> {
    return this.call('POST', '/plan', { pipeline, ...more });
  }

  /** A page of the rows of a run that is still kept. */
  page(runId: string, offset: number, size: number, asked: Asked = {}): Promise<Answer<typeof rowsPage>> {
    return this.call('GET', `/runs/${encodeURIComponent(runId)}/rows?offset=${offset}&size=${size}`, undefined, asked);
  }

  /** Runs a pipeline, and gives all its rows, a page at a time as they are asked for. */
  async *rows(pipeline: string, more: Omit<QueryBody, 'pipeline' | 'pageSize'> = {}): AsyncGenerator<Row> {
    const first = await this.query(pipeline, { ...more, pageSize: rowsAtOnce });
    yield* first.documents as Row[];
    for (let offset = rowsAtOnce, hasMore = first.hasMore; hasMore; offset += rowsAtOnce) {
      const page = await this.page(first.runId, offset, rowsAtOnce);
      yield* page.documents as Row[];
      hasMore = page.hasMore;
    }
  }

  async collections(): Promise<Answer<typeof collectionList>['collections']> {
    return (await this.call<Answer<typeof collectionList>>('GET', '/collections')).collections;
  }

  createCollection(collection: Body<typeof createCollection>): Promise<Answer<typeof collectionList>['collections'][number]> {
    return this.call('POST', '/collections', collection);
  }

  insert(collection: string, documents: readonly Row[]): Promise<Answer<typeof inserted>> {
    return this.call('POST', `/collections/${encodeURIComponent(collection)}/documents`, documents);
  }

  /** Loads a file. @param type application/x-ndjson, application/json or text/csv */
  async load(collection: string, file: BodyInit, type: string, isZipped = false): Promise<Answer<typeof importResult>> {
    const headers = { 'content-type': type, ...(isZipped && { 'content-encoding': 'gzip' }) };
    const response = await this.send(`/collections/${encodeURIComponent(collection)}/import`, { method: 'POST', headers, body: file });
    return (await response.json()) as Answer<typeof importResult>;
  }

  async pipelines(): Promise<Answer<typeof pipelineList>['pipelines']> {
    return (await this.call<Answer<typeof pipelineList>>('GET', '/pipelines')).pipelines;
  }

  savePipeline(name: string, pipeline: Body<typeof savePipeline>): Promise<Answer<typeof savedPipeline>> {
    return this.call('PUT', `/pipelines/${encodeURIComponent(name)}`, pipeline);
  }

  /** All rows of a publication. @param key of one that wants it */
  async *published(name: string, parameters: Readonly<Record<string, string>> = {}, key?: string): AsyncGenerator<Row> {
    // Where a token is wanted at all, what is open is so to those who have it.
    const bearer = key ?? this.options.token;
    const headers: Record<string, string> = bearer === undefined ? {} : { authorization: `Bearer ${bearer}` };
    let address: string | undefined = this.at(`/published/${encodeURIComponent(name)}?${new URLSearchParams(parameters).toString()}`);
    while (address !== undefined) {
      const { documents, next } = (await (await this.checked(address, { headers })).json()) as { documents: Row[]; next?: string };
      yield* documents;
      address = next === undefined ? undefined : new URL(next, this.options.address).href;
    }
  }

  /** Any other call. @param path below /api @throws ZestySieveProblem */
  async call<T>(method: string, path: string, body?: unknown, { signal }: Asked = {}): Promise<T> {
    const headers: Record<string, string> = body === undefined ? {} : { 'content-type': 'application/json' };
    const options: RequestInit = { method, headers, ...(body !== undefined && { body: JSON.stringify(body) }), ...(signal && { signal }) };
    const response = await this.send(path, options);
    return response.status === 204 ? (undefined as T) : ((await response.json()) as T);
  }

  /** A call whose answer is read as it comes. @param path below /api @throws ZestySieveProblem */
  send(path: string, options: RequestInit = {}): Promise<Response> {
    const { token } = this.options;
    const headers = { ...(token !== undefined && { authorization: `Bearer ${token}` }), ...(options.headers as Record<string, string>) };
    return this.checked(this.at(path), { ...options, headers });
  }

  private at(path: string): string {
    const { address, database } = this.options;
    return `${address.replace(/\/$/, '')}/api${database === undefined ? '' : `/databases/${encodeURIComponent(database)}`}${path}`;
  }

  private async checked(address: string, options: RequestInit): Promise<Response> {
    const response = await (this.options.fetch ?? fetch)(address, options);
    if (response.ok) return response;
    const told = (await response.json().catch(() => ({}))) as Partial<Problem>;
    throw new ZestySieveProblem({ type: '/problems/unknown', title: response.statusText, status: response.status, ...told });
  }
}
