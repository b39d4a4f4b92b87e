import { isPlainlyWritten } from '../../notation/print.ts';
import type { Step } from '../tree.ts';
import { sqlName } from '../words.ts';
import { quoted, Unsaid, type Placed } from './writer.ts';

/** A path as SQLite's JSON functions take it. */
export function jsonPath(steps: readonly Step[]): string {
  const parts = steps.map((step) => (typeof step === 'number' ? `[${step}]` : isPlainlyWritten(step) ? `.${step}` : `."${step}"`));
  if (steps.some((step) => typeof step === 'string' && step.includes('"'))) throw new Unsaid('a name with a quote in it');
  return quoted(`$${parts.join('')}`);
}

const number = "('integer', 'real')";
export const isNumberKind = (kind: string): string => `${kind} IN ${number}`;

/** The fields of documents: `name(id, body)` with `body` JSON. A member of WITH has its columns as they are. */
export function sqliteTable(at: readonly string[], alias: string, isQuestion: boolean): Placed {
  const dot = alias === '' ? '' : `${sqlName(alias)}.`;
  if (isQuestion) {
    const own = (name: Step): Placed => sqliteColumn([], `${dot}${sqlName(String(name))}`);
    const placed = (read: (place: Placed, rest: readonly Step[]) => string) => (steps: readonly Step[]) => {
      const [first, ...rest] = steps;
      if (first === undefined) throw new Unsaid('a whole row of a source of its own');
      return read(own(first), rest);
    };
    return {
      at,
      text: placed((place, rest) => place.text(rest)),
      kind: placed((place, rest) => place.kind!(rest)),
      json: placed((place, rest) => place.json!(rest)),
      isColumn: (steps) => steps.length <= 1,
    };
  }
  const body = `${dot}body`;
  return {
    at,
    text: (steps) => (steps.length === 0 ? body : `${body} ->> ${jsonPath(steps)}`),
    kind: (steps) => `json_type(${body}, ${jsonPath(steps)})`,
    json: (steps) => (steps.length === 0 ? `json(${body})` : `${body} -> ${jsonPath(steps)}`),
    isColumn: () => false,
  };
}

/** A column: a value of SQL, or the text of an array or object, in which one may go on. */
export function sqliteColumn(at: readonly string[], text: string, isCounted = false): Placed {
  const within = (steps: readonly Step[], read: string): string =>
    `CASE WHEN json_valid(${text}) THEN ${text} ${read} ${jsonPath(steps)} END`;
  return {
    at,
    text: (steps) => (steps.length === 0 ? text : within(steps, '->>')),
    kind: (steps) => (steps.length === 0 ? `nullif(typeof(${text}), 'null')` : `typeof(${within(steps, '->>')})`),
    json: (steps) => (steps.length === 0 ? `CASE WHEN typeof(${text}) = 'text' AND ${text} GLOB '[[{]*' AND json_valid(${text}) THEN json(${text}) ELSE ${text} END` : within(steps, '->')), // prettier-ignore
    isColumn: (steps) => steps.length === 0,
    isCounted,
  };
}

/** An element of an array, as a row of `json_each`. */
export function sqliteElement(name: string): Placed {
  const own = sqlName(name);
  const within = (steps: readonly Step[], read: string): string =>
    `CASE WHEN ${own}.type IN ('object', 'array') THEN ${own}.value ${read} ${jsonPath(steps)} END`;
  return {
    at: [name],
    text: (steps) => (steps.length === 0 ? `${own}.value` : `(${within(steps, '->>')})`),
    kind: (steps) => (steps.length === 0 ? `${own}.type` : `CASE WHEN ${own}.type IN ('object', 'array') THEN json_type(${own}.value, ${jsonPath(steps)}) END`),
    json: (steps) => (steps.length === 0 ? `CASE WHEN ${own}.type IN ('object', 'array') THEN json(${own}.value) ELSE ${own}.value END` : within(steps, '->')),
    isColumn: () => false,
  };
} // prettier-ignore
