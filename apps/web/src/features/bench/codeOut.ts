import { apiUrl } from '../../api/apiUrl.ts';
import type { Json } from '@zesty-sieve/core/language';

interface Call {
  readonly pipeline?: string;
  readonly sql?: string;
  readonly parameters?: Record<string, Json>;
}

/** What is asked: a pipeline, or a question in SQL. */
type Question = { readonly pipeline: string } | { readonly sql: string };

const pathOf = (question: Question): string => apiUrl('sql' in question ? 'sql' : 'query');

function callOf(question: Question, parameters: Record<string, Json>): Call {
  return { ...question, ...(Object.keys(parameters).length > 0 && { parameters }) };
}

/** The pipeline as a call of the HTTP API in TypeScript. */
export function fetchCode(origin: string, question: Question, parameters: Record<string, Json>): string {
  const body = JSON.stringify(callOf(question, parameters), null, 2).split('\n').join('\n  ');
  return `const response = await fetch('${origin}${pathOf(question)}', {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(${body}),
});
if (!response.ok) throw new Error(((await response.json()) as { detail: string }).detail);
const { documents } = (await response.json()) as { documents: unknown[] };
`;
}

/** The same for a shell (POSIX quoting). */
export function curlCode(origin: string, question: Question, parameters: Record<string, Json>): string {
  const body = JSON.stringify(callOf(question, parameters)).replaceAll("'", `'\\''`);
  return `curl -sS '${origin}${pathOf(question)}' -H 'content-type: application/json' --data-raw '${body}'\n`;
}

/** The pipeline in a call that was copied out; undefined where the text is none. */
export function pipelineIn(text: string): Call | undefined {
  const trimmed = text.trim();
  const json = trimmed.startsWith('curl ')
    ? /--data(?:-raw)? '((?:[^']|'\\'')*)'/.exec(trimmed)?.[1]!.replaceAll(`'\\''`, "'")
    : /JSON\.stringify\((\{[\s\S]*?\n\s*\})\)/.exec(trimmed)?.[1];
  if (json === undefined) return undefined;
  try {
    const call = JSON.parse(json) as Partial<Call>;
    const { pipeline, sql, parameters } = call;
    if (typeof pipeline !== 'string' && typeof sql !== 'string') return undefined;
    return { ...(typeof sql === 'string' ? { sql } : { pipeline }), ...(parameters && { parameters }) } as Call;
  } catch {
    return undefined;
  }
}
