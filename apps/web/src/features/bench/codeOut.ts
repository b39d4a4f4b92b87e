import type { Json } from '@zesty-sieve/core/language';

interface Call {
  readonly pipeline: string;
  readonly parameters?: Record<string, Json>;
}

function callOf(pipeline: string, parameters: Record<string, Json>): Call {
  return { pipeline, ...(Object.keys(parameters).length > 0 && { parameters }) };
}

/** The pipeline as a call of the HTTP API in TypeScript. */
export function fetchCode(origin: string, pipeline: string, parameters: Record<string, Json>): string {
  const body = JSON.stringify(callOf(pipeline, parameters), null, 2).split('\n').join('\n  ');
  return `const response = await fetch('${origin}/api/query', {
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(${body}),
});
if (!response.ok) throw new Error(((await response.json()) as { detail: string }).detail);
const { documents } = (await response.json()) as { documents: unknown[] };
`;
}

/** The same for a shell (POSIX quoting). */
export function curlCode(origin: string, pipeline: string, parameters: Record<string, Json>): string {
  const body = JSON.stringify(callOf(pipeline, parameters)).replaceAll("'", `'\\''`);
  return `curl -sS '${origin}/api/query' -H 'content-type: application/json' --data-raw '${body}'\n`;
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
    return typeof call.pipeline === 'string'
      ? { pipeline: call.pipeline, ...(call.parameters && { parameters: call.parameters }) }
      : undefined;
  } catch {
    return undefined;
  }
}
