import { createHash } from 'node:crypto';
import type { Approximation, Json } from '@zesty-sieve/core';
import { approximateText, asOf } from '../http/saidOfRows.ts';
import { isRestarting } from './restarting.ts';
import type { Hub } from '../hub.ts';
import { ServerProblem, unwrap } from '../problem.ts';
import type { StoredPipeline } from '../storage/savedPipeline.ts';
import type { StoredPublication } from '../storage/rooms/publications.ts';
import { CancelFlag } from '../threads/cancelFlag.ts';
import type { Computed } from './answerCache.ts';

export type Format = 'json' | 'ndjson' | 'csv';
export const formats: readonly Format[] = ['json', 'ndjson', 'csv'];
const types: Record<Format, string> = {
  json: 'application/json; charset=utf-8',
  ndjson: 'application/x-ndjson',
  csv: 'text/csv; charset=utf-8',
};

/** What a caller asks of a publication. */
export interface Asked {
  readonly values: Readonly<Record<string, Json>>;
  readonly format: Format;
  readonly offset: number;
  readonly size: number;
  /** The address of what follows, from the number of its first row. */
  readonly addressFrom: (offset: number) => string;
}

/** Works an answer out: a run like any other, of the rows that are asked for and one more. */
export async function compute(
  hub: Hub,
  publication: StoredPublication,
  { pipeline }: StoredPipeline,
  asked: Asked,
  state: () => string | undefined,
): Promise<Computed> {
  const { catalog } = hub;
  const { atOnce: _, ...limits } = publication.guards;
  const guards = { ...hub.guards, ...limits };
  const before = state();
  await hub.materialized.ready(catalog.sourcesFor(pipeline), guards.timeMs);
  const sources = catalog.sourcesFor(pipeline);
  const flag = new CancelFlag();
  const { offset, size, format } = asked;
  const page = `${pipeline.trimEnd()}\n${offset > 0 ? `offset ${offset}\n` : ''}limit ${size + 1}\n`;
  const request = { pipeline: page, parameters: { ...asked.values }, pageSize: 0, guards };
  const { answer, kept, read } = await hub.ask(flag, (engine) => engine.query(sources, catalog.sourceNames, request, flag.buffer));
  if (kept !== null) hub.runLog.add({ ...kept, pipeline, publication: publication.name });
  hub.materialized.uses.add(read);
  const {
    runId,
    rowsReturned,
    cost,
    approximate,
    sources: views,
  } = JSON.parse(unwrap(answer)) as {
    runId: string;
    rowsReturned: number;
    cost: { documentsRead: number };
    approximate: Approximation | null;
    sources: Parameters<typeof asOf>[0];
  };
  const { text } = unwrap(
    await hub.engine.call((engine) =>
      engine.rowsPiece(runId, 0, size, { format: format === 'json' ? 'ndjson' : format, guardsFormulas: false }),
    ),
  );
  const next = rowsReturned > size ? asked.addressFrom(offset + size) : undefined;
  const body = format === 'json' ? wrapped(text, next) : text;
  // What was changed while it was read is of no state that can be told.
  const bytes = Buffer.from(body);
  return {
    body: bytes,
    tag: `"${createHash('sha256').update(bytes).digest('base64url').slice(0, 27)}"`,
    type: types[format],
    next,
    documentsRead: cost.documentsRead,
    approximate: approximate === null ? undefined : approximateText(approximate),
    asOf: asOf(views),
    state: before !== undefined && state() === before ? before : undefined,
  };
}

function wrapped(lines: string, next: string | undefined): string {
  const documents = lines.trimEnd().split('\n').join(',');
  const more = next === undefined ? '"hasMore":false' : `"hasMore":true,"next":${JSON.stringify(next)}`;
  return `{"documents":[${documents}],${more}}`;
}

/** What a caller from elsewhere is told of a failure: nothing of plans, indexes, or where in the pipeline. */
export function outwards(error: unknown): ServerProblem {
  if (!(error instanceof ServerProblem)) return new ServerProblem('/internal', 'The server failed at this; its log says more.');
  const { type, detail = '', reached, limit, faults, retryAfter } = error.problem;
  const kind = type.replace('/problems', '') as ConstructorParameters<typeof ServerProblem>[0];
  if (isRestarting(error))
    return new ServerProblem('/restarted', 'The answer could not be worked out just now. Ask again.', { retryAfter: 1 });
  if (kind.startsWith('/guard-')) return new ServerProblem(kind, `The answer takes more than may be spent on it.`, { reached, limit });
  if (kind === '/pipeline') return new ServerProblem('/pipeline', `What is published here cannot be answered at present: ${detail}`);
  return new ServerProblem(kind, detail, { ...(faults !== undefined && { faults }), ...(retryAfter !== undefined && { retryAfter }) });
}
