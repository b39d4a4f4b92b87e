import type { Step } from '../tree.ts';
import { sqlName } from '../words.ts';
import { quoted, type Placed } from './writer.ts';

/** A path as PostgreSQL's operators on jsonb take it: `{party,size}`. */
export const pathOf = (steps: readonly Step[]): string =>
  quoted(`{${steps.map((step) => (typeof step === 'number' ? String(step) : JSON.stringify(step))).join(',')}}`);

/** What is inside a value of jsonb; null is NULL. */
function within(value: string): Pick<Placed, 'text' | 'kind' | 'json'> {
  const at = (steps: readonly Step[]): string => (steps.length === 0 ? value : `${value} #> ${pathOf(steps)}`);
  return {
    text: (steps) => `NULLIF(${at(steps)}, 'null')`,
    kind: (steps) => `jsonb_typeof(${at(steps)})`,
    json: at,
  };
}

/** The fields of documents: `name(id, body)` with `body` jsonb. A member of WITH has columns of jsonb. */
export function postgresTable(at: readonly string[], alias: string, isQuestion: boolean): Placed {
  const dot = alias === '' ? '' : `${sqlName(alias)}.`;
  if (!isQuestion) return { at, ...within(`${dot}body`), isColumn: () => false };
  const column = ([first, ...rest]: readonly Step[]): readonly [Placed, readonly Step[]] => [postgresColumn([], `${dot}${sqlName(String(first))}`), rest]; // prettier-ignore
  const read = (pick: (place: Placed) => (steps: readonly Step[]) => string) => (steps: readonly Step[]) => {
    const [place, rest] = column(steps);
    return pick(place)(rest);
  };
  return {
    at,
    text: read(({ text }) => text),
    kind: read(({ kind }) => kind!),
    json: read(({ json }) => json!),
    isColumn: (steps) => steps.length <= 1,
  };
}

/** A column of jsonb, NULL where it is none. */
export function postgresColumn(at: readonly string[], text: string, isCounted = false): Placed {
  const inner = within(/^[\w."]+$/.test(text) ? text : `(${text})`);
  return {
    at,
    text: (steps) => (steps.length === 0 ? text : inner.text(steps)),
    kind: (steps) => (steps.length === 0 ? `jsonb_typeof(${text})` : inner.kind!(steps)),
    json: (steps) => (steps.length === 0 ? text : inner.json!(steps)),
    isColumn: (steps) => steps.length === 0,
    isCounted,
  };
}

/** An element of an array, as a row of `jsonb_array_elements`. */
export function postgresElement(name: string): Placed {
  return { at: [name], ...within(`${sqlName(name)}.value`), isColumn: () => false };
}
