import { isObject, type Json } from '../../values/json.ts';

export function length(value: Json | undefined): number | undefined {
  if (typeof value === 'string') return codePoints(value);
  if (Array.isArray(value)) return value.length;
  return isObject(value) ? Object.keys(value).length : undefined;
}

function codePoints(text: string): number {
  let count = 0;
  for (let i = 0; i < text.length; i++) {
    count++;
    if (isHigh(text, i)) i++;
  }
  return count;
}

function isHigh(text: string, at: number): boolean {
  const unit = text.charCodeAt(at);
  if (unit < 0xd800 || unit > 0xdbff) return false;
  const low = text.charCodeAt(at + 1);
  return low >= 0xdc00 && low <= 0xdfff;
}

export function concat(...parts: unknown[]): string {
  // The last argument is the context.
  return parts.slice(0, -1).join('');
}

export function split(text: string, by: string): string[] {
  return by === '' ? Array.from(text) : text.split(by);
}

export function glue(array: Json[], by: string): string | undefined {
  const texts = array.filter((item): item is string => typeof item === 'string');
  return texts.length === 0 && array.length > 0 ? undefined : texts.join(by);
}

export function replace(text: string, part: string, by: string): string {
  return part === '' ? text : text.replaceAll(part, () => by);
}

/** Without white space at both ends, or without the characters given. */
export function trim(text: string, characters: unknown): string {
  if (typeof characters !== 'string') return text.trim();
  const points = Array.from(text);
  const among = new Set(Array.from(characters));
  let from = 0;
  let to = points.length;
  while (from < to && among.has(points[from]!)) from++;
  while (to > from && among.has(points[to - 1]!)) to--;
  return points.slice(from, to).join('');
}

/** The place of the first occurrence of a part, in code points from 0; nothing where there is none. */
export function positionOf(text: string, part: string): number | undefined {
  let at = text.indexOf(part);
  // Half of a pair is no character: a part that begins there does not stand in the text.
  while (at > 0 && isHigh(text, at - 1)) at = text.indexOf(part, at + 1);
  return at < 0 ? undefined : codePoints(text.slice(0, at));
}

/** Places and lengths in code points; a place before the beginning has no meaning. */
export function substring(text: string, from: number, count: unknown): string | undefined {
  if (from < 0 || !Number.isInteger(from)) return undefined;
  if (typeof count === 'number' && (count < 0 || !Number.isInteger(count))) return undefined;
  const to = typeof count === 'number' ? from + count : undefined;
  // eslint-disable-next-line no-control-regex -- texts without surrogates are cut by their units
  if (/^[\x00-\ud7ff]*$/.test(text)) return text.slice(from, to);
  return Array.from(text).slice(from, to).join('');
}
