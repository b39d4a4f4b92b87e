import type { Json } from '@zesty-sieve/core';

/** What JSON numbers or objects could not hold of a document's text. */
export interface Loss {
  readonly path: string;
  readonly reason: string;
}

const quote = 0x22;
const backslash = 0x5c;

/**
 * Looks through JSON text that has parsed for what the parsed value may have lost: integers past 2^53 and
 * repeated keys. Almost every document is cleared by counting alone.
 */
export function lossesOf(text: string, parsed: Json): Loss[] {
  let keys = 0;
  let digits = 0;
  let suspicious = false;
  for (let i = 0; i < text.length; i++) {
    const unit = text.charCodeAt(i);
    if (unit === quote) {
      digits = 0;
      i = stringEnd(text, i);
    } else if (unit === 0x3a) {
      keys++;
    } else if (unit >= 0x30 && unit <= 0x39) {
      if (++digits >= 16) suspicious = true;
    } else {
      digits = 0;
      // An exponent can make a number too large for a double.
      if (unit === 0x45 || (unit === 0x65 && text[i - 1]! >= '0' && text[i - 1]! <= '9')) suspicious = true;
    }
  }
  return suspicious || keys !== keysIn(parsed) ? findLosses(text) : [];
}

/** Where the string that begins at an offset ends: the offset of its closing quote. */
export function stringEnd(text: string, from: number): number {
  for (let i = text.indexOf('"', from + 1); ; i = text.indexOf('"', i + 1)) {
    if (i < 0) return text.length;
    let slashes = 0;
    while (text.charCodeAt(i - 1 - slashes) === backslash) slashes++;
    if (slashes % 2 === 0) return i;
  }
}

function keysIn(value: Json): number {
  if (typeof value !== 'object' || value === null) return 0;
  let keys = 0;
  if (Array.isArray(value)) {
    for (const item of value) if (typeof item === 'object') keys += keysIn(item);
    return keys;
  }
  for (const name in value) {
    keys++;
    const item = value[name];
    if (typeof item === 'object') keys += keysIn(item);
  }
  return keys;
}

/** Walks the text token by token, with the path to where it is. */
function findLosses(text: string): Loss[] {
  const losses: Loss[] = [];
  const stack: { keys: Set<string> | undefined; step: string }[] = [];
  const tokens = /"(?:[^"\\]|\\.)*"|-?\d+(?:\.\d+)?(?:[eE][+-]?\d+)?|[{}[\],:]|true|false|null/g;
  const path = () => '$' + stack.map(({ step }) => step).join('');
  let expectsKey = false;
  for (const [token] of text.matchAll(tokens)) {
    const top = stack[stack.length - 1];
    if (token === '{' || token === '[') {
      stack.push({ keys: token === '{' ? new Set() : undefined, step: token === '[' ? '[0]' : '' });
      expectsKey = token === '{';
    } else if (token === '}' || token === ']') {
      stack.pop();
      expectsKey = false;
    } else if (token === ',') {
      if (top?.keys === undefined && top !== undefined) top.step = `[${Number(top.step.slice(1, -1)) + 1}]`;
      expectsKey = top?.keys !== undefined;
    } else if (expectsKey && top?.keys !== undefined) {
      const key = JSON.parse(token) as string;
      top.step = `['${key.replace(/[\\']/g, '\\$&')}']`;
      if (top.keys.has(key)) losses.push({ path: path(), reason: 'this key stands twice in its object; the last one counts' });
      top.keys.add(key);
      expectsKey = false;
    } else if (/^-?\d/.test(token)) {
      const number = Number(token);
      if (!Number.isFinite(number)) losses.push({ path: path(), reason: `${token} is too large for a number` });
      else if (/^-?\d+$/.test(token) && !Number.isSafeInteger(number) && BigInt(number) !== BigInt(token)) {
        losses.push({ path: path(), reason: `${token} is past 2^53 and is compared as ${number}` });
      }
    }
  }
  return losses;
}

export const depthLimit = 500;

/** Whether arrays and objects of a text are nested deeper than a document may be: each takes two signs of it at least. */
export const isTooDeep = (text: string, parsed: Json, limit = depthLimit): boolean => text.length >= 2 * limit && isDeeper(parsed, limit);

function isDeeper(value: Json, levels: number): boolean {
  if (typeof value !== 'object' || value === null) return false;
  if (levels === 0) return true;
  if (Array.isArray(value)) return value.some((item) => isDeeper(item, levels - 1));
  for (const name in value) if (isDeeper(value[name]!, levels - 1)) return true;
  return false;
}
