import type { PublishedField, PublishedParameter } from '@zesty-sieve/contract';
import type { Json } from '@zesty-sieve/core';
import { callersConditionProblem } from '@zesty-sieve/core/language';

/** Names in an address that are not parameters. */
export const reservedNames: ReadonlySet<string> = new Set(['format', 'size', 'offset']);

export interface Fault {
  readonly parameter: string;
  readonly message: string;
}

/** The values of a call's parameters, or everything that is wrong with them. */
export type ReadParameters = { readonly values: Readonly<Record<string, Json>> } | { readonly faults: readonly Fault[] };

/** A query string as it was parsed: a name that was given several times has a list. */
export type Given = Readonly<Record<string, unknown>>;

/**
 * Reads the parameters of a call by their kinds, before anything runs.
 * @param saved the values that were saved with the pipeline, for what is not given
 */
export function readParameters(
  parameters: readonly PublishedParameter[],
  given: Given,
  saved: Readonly<Record<string, Json>>,
): ReadParameters {
  const faults: Fault[] = [];
  const values: Record<string, Json> = { ...saved };
  const known = new Map(parameters.map((one) => [one.name, one]));
  for (const name of Object.keys(given)) {
    if (reservedNames.has(name) || known.has(name)) continue;
    const names = [...known.keys()];
    faults.push({
      parameter: name,
      message: `There is no parameter ${name}.${names.length === 0 ? '' : ` There ${names.length === 1 ? 'is' : 'are'} ${names.join(', ')}.`}`,
    });
  }
  for (const parameter of parameters) {
    const { name, kind } = parameter;
    const texts = textsOf(given[name]);
    const fault = (message: string) => void faults.push({ parameter: name, message });
    if (texts === undefined) {
      if (parameter.default !== undefined) values[name] = parameter.default;
      else if (kind !== 'condition' && !Object.hasOwn(values, name)) fault(`${name} is wanted: ${kindText(parameter)}.`);
      continue;
    }
    if (kind === 'list') {
      const items = texts.map((text) => readSingle({ ...parameter, kind: parameter.of ?? 'text' }, text));
      const wrong = items.find((item) => 'wrong' in item);
      if (wrong !== undefined && 'wrong' in wrong) fault(wrong.wrong);
      else values[name] = items.flatMap((item) => ('value' in item ? [item.value] : []));
      continue;
    }
    if (texts.length > 1) {
      fault(`${name} is given ${texts.length} times, and it has one value.`);
      continue;
    }
    const read = readSingle(parameter, texts[0]!);
    if ('wrong' in read) fault(read.wrong);
    else values[name] = read.value;
  }
  return faults.length > 0 ? { faults } : { values };
}

function textsOf(given: unknown): readonly string[] | undefined {
  if (given === undefined) return undefined;
  return Array.isArray(given) ? given.map(String) : [String(given)];
}

type Single = { readonly value: Json } | { readonly wrong: string };

function readSingle(parameter: PublishedParameter, text: string): Single {
  const { name, kind } = parameter;
  if (kind === 'condition') return readCondition(parameter, text);
  const read = plainValue(kind, text);
  if (read === undefined) return { wrong: `${name} is ${kindText(parameter)}${text === '' ? ', and it is empty' : ''}.` };
  if (parameter.choices !== undefined && !parameter.choices.some((choice) => choice === read))
    return { wrong: `${name} is one of ${parameter.choices.join(', ')}.` };
  const { least, greatest } = parameter;
  if (least !== undefined && isBefore(read, least, kind)) return { wrong: `${name} is ${least} or more.` };
  if (greatest !== undefined && isBefore(greatest, read, kind)) return { wrong: `${name} is ${greatest} or less.` };
  return { value: read };
}

const numberText = /^-?(0|[1-9]\d*)(\.\d+)?([eE][+-]?\d+)?$/;

function plainValue(kind: PublishedParameter['kind'], text: string): string | number | boolean | undefined {
  switch (kind) {
    case 'number': {
      const value = numberText.test(text) ? Number(text) : NaN;
      return Number.isFinite(value) ? value : undefined;
    }
    case 'boolean':
      return text === 'true' ? true : text === 'false' ? false : undefined;
    case 'date':
      return isDate(text) ? text : undefined;
    default:
      return text;
  }
}

const datePattern = /^(\d{4})-(\d{2})-(\d{2})(?:[Tt]([01]\d|2[0-3]):[0-5]\d:([0-5]\d|60)(\.\d+)?(?:[Zz]|[+-]([01]\d|2[0-3]):[0-5]\d))?$/;

/** A full date, or a date and time (RFC 3339, 5.6), that there is in the calendar. */
export function isDate(text: string): boolean {
  const found = datePattern.exec(text);
  if (found === null) return false;
  const [year, month, day] = [Number(found[1]), Number(found[2]), Number(found[3])];
  const date = new Date(Date.UTC(2000, month - 1, day));
  date.setUTCFullYear(year, month - 1, day);
  return date.getUTCMonth() === month - 1 && date.getUTCDate() === day;
}

function isBefore(a: Json, b: Json, kind: PublishedParameter['kind']): boolean {
  if (kind === 'date' && typeof a === 'string' && typeof b === 'string') return Date.parse(a) < Date.parse(b);
  return typeof a === typeof b && a !== null && b !== null && a < b;
}

export const fieldPaths = ({ fields = [] }: Pick<PublishedParameter, 'fields'>): string[] =>
  fields.map((field: string | PublishedField) => (typeof field === 'string' ? field : field.path));

function readCondition(parameter: PublishedParameter, text: string): Single {
  if (text.trim() === '') return { wrong: `${parameter.name} is a condition, and it is empty. Leave it out to have every row.` };
  const problem = callersConditionProblem(text, fieldPaths(parameter));
  return problem === undefined ? { value: text } : { wrong: `${parameter.name} is no condition that may be asked: ${problem}.` };
}

function kindText({ kind, of, choices }: PublishedParameter): string {
  if (choices !== undefined) return `one of ${choices.join(', ')}`;
  switch (kind) {
    case 'number':
      return 'a number, such as 12 or -0.5';
    case 'boolean':
      return 'true or false';
    case 'date':
      return 'a date, YYYY-MM-DD, or a date and time by RFC 3339';
    case 'list':
      return `a list of ${of === 'number' ? 'numbers' : 'texts'}: the name repeated for each`;
    case 'condition':
      return 'a condition';
    default:
      return 'a text';
  }
}
