import type { Json } from '@zesty-sieve/core/language';

/** The values of parameters from what stands in their inputs: numbers, true, false, null and lists as such, else text. */
export function parametersFor(typed: Readonly<Record<string, string>>): Record<string, Json> {
  return Object.fromEntries(Object.entries(typed).flatMap(([name, text]) => (text.trim() === '' ? [] : [[name, valueOf(text)]])));
}

/** What stands in the inputs for values: what gives them again. A text that reads like another value, as 7 does, stands in quotes. */
export function typedFor(parameters: Readonly<Record<string, unknown>> | null | undefined): Record<string, string> {
  return Object.fromEntries(Object.entries(parameters ?? {}).map(([name, value]) => [name, typedText(value)]));
}

function typedText(value: unknown): string {
  return typeof value === 'string' && value.trim() !== '' && valueOf(value) === value ? value : JSON.stringify(value);
}

function valueOf(text: string): Json {
  try {
    const value = JSON.parse(text) as Json;
    // More than a number can be is none that could be sent.
    return typeof value === 'number' && !Number.isFinite(value) ? text : value;
  } catch {
    return text;
  }
}
