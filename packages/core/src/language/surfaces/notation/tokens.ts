import { findings } from '../../diagnostics/findings.ts';
import type { Finding } from '../../diagnostics/diagnostic.ts';
import type { Span } from '../../span.ts';

export type Token = Span &
  (
    | { readonly kind: 'name'; readonly text: string; readonly quoted?: true }
    | { readonly kind: 'number'; readonly text: string }
    | { readonly kind: 'string'; readonly text: string; readonly value: string }
    | { readonly kind: 'sign'; readonly text: Sign }
    | { readonly kind: 'broken'; readonly text: string; readonly finding: Finding }
    | { readonly kind: 'comment'; readonly text: string }
    | { readonly kind: 'end'; readonly text: '' }
  );

// Longer signs stand before their beginnings, since the first that fits is taken.
const signs = [
  '==', '!=', '<=', '>=', '&&', '||', '..',
  '@', '$', '.', '[', ']', '(', ')', '{', '}', ',', ':', '*', '?', '<', '>', '!', '+', '-', '/', '%', '=',
] as const; // prettier-ignore
export type Sign = (typeof signs)[number];

const blank = /[ \t\n\r]*/y;
// RFC 9535, 2.5.1.1: member-name-shorthand. Surrogates may only come in pairs.
export const namePattern = /[A-Za-z_\u0080-\ud7ff\ue000-\u{10ffff}][A-Za-z0-9_\u0080-\ud7ff\ue000-\u{10ffff}]*/uy;
export const numberPattern = /\d+(?:\.\d+)?(?:[eE][+-]?\d+)?/y;

export function matchAt(pattern: RegExp, text: string, at: number): string | undefined {
  pattern.lastIndex = at;
  return pattern.exec(text)?.[0];
}

/** Cuts `text[from, to)` into tokens; the last is `end`. White space is RFC 9535's; `#` comments are tokens. */
export function tokenize(text: string, from: number, to: number): Token[] {
  const tokens: Token[] = [];
  const part = to === text.length ? text : text.slice(0, to);
  let at = from;
  for (;;) {
    at += matchAt(blank, part, at)?.length ?? 0;
    if (at >= to) break;
    const token = tokenAt(part, at);
    tokens.push(token);
    at = token.to;
  }
  tokens.push({ kind: 'end', text: '', from: to, to });
  return tokens;
}

function tokenAt(text: string, from: number): Token {
  const first = text[from];
  if (first === '#') {
    const end = text.indexOf('\n', from);
    const to = end < 0 ? text.length : end;
    return { kind: 'comment', text: text.slice(from, to), from, to };
  }
  if (first === '"' || first === "'") return stringAt(text, from);
  const named = matchAt(namePattern, text, from);
  if (named !== undefined) return { kind: 'name', text: named, from, to: from + named.length };
  const digits = matchAt(numberPattern, text, from);
  if (digits !== undefined) return { kind: 'number', text: digits, from, to: from + digits.length };
  const sign = signs.find((candidate) => text.startsWith(candidate, from));
  if (sign !== undefined) return { kind: 'sign', text: sign, from, to: from + sign.length };
  const stray = String.fromCodePoint(text.codePointAt(from) ?? 0);
  const span = { from, to: from + stray.length };
  return { kind: 'broken', text: stray, ...span, finding: findings.strayCharacter(span, stray) };
}

const escapes: Record<string, string> = { b: '\b', f: '\f', n: '\n', r: '\r', t: '\t', '/': '/', '\\': '\\' };

/** A string literal of RFC 9535, 2.3.1.1, in either kind of quotes. */
function stringAt(text: string, from: number): Token {
  const quote = text[from]!;
  let value = '';
  let at = from + 1;
  const broken = (finding: Finding, to: number): Token => ({ kind: 'broken', text: text.slice(from, to), from, to, finding });
  for (;;) {
    const unit = text[at];
    if (unit === undefined || unit === '\n') {
      return broken(findings.openString({ from, to: at }, quote), at);
    }
    if (unit === quote) return { kind: 'string', text: text.slice(from, at + 1), value, from, to: at + 1 };
    if (unit < ' ') return broken(findings.controlInString({ from: at, to: at + 1 }, unit), restOfString(text, at, quote));
    if (unit === '\\') {
      const escape = escapeAt(text, at, quote);
      if (escape === undefined) {
        return broken(findings.badEscape({ from: at, to: at + 2 }, text.slice(at, at + 2)), restOfString(text, at + 1, quote));
      }
      value += escape.value;
      at = escape.to;
    } else if (isLoneSurrogate(text, at)) {
      return broken(findings.strayCharacter({ from: at, to: at + 1 }, unit), restOfString(text, at, quote));
    } else {
      const point = String.fromCodePoint(text.codePointAt(at) ?? 0);
      value += point;
      at += point.length;
    }
  }
}

export function isLoneSurrogate(text: string, at: number): boolean {
  const point = text.codePointAt(at) ?? 0;
  return point >= 0xd800 && point <= 0xdfff;
}

/** Where a string that is wrong inside ends, so that what follows it is still read rightly. */
function restOfString(text: string, from: number, quote: string): number {
  let at = from;
  while (at < text.length && text[at] !== '\n' && text[at] !== quote) at += text[at] === '\\' ? 2 : 1;
  return Math.min(text[at] === quote ? at + 1 : at, text.length);
}

function escapeAt(text: string, at: number, quote: string): { value: string; to: number } | undefined {
  const letter = text[at + 1];
  if (letter === quote) return { value: quote, to: at + 2 };
  if (letter !== undefined && Object.hasOwn(escapes, letter)) return { value: escapes[letter]!, to: at + 2 };
  if (letter !== 'u') return undefined;
  const unit = hexAt(text, at + 2);
  if (unit === undefined || (unit >= 0xdc00 && unit <= 0xdfff)) return undefined;
  if (unit < 0xd800 || unit > 0xdbff) return { value: String.fromCharCode(unit), to: at + 6 };
  const low = text.startsWith('\\u', at + 6) ? hexAt(text, at + 8) : undefined;
  if (low === undefined || low < 0xdc00 || low > 0xdfff) return undefined;
  return { value: String.fromCharCode(unit, low), to: at + 12 };
}

function hexAt(text: string, at: number): number | undefined {
  const digits = text.slice(at, at + 4);
  return /^[0-9a-fA-F]{4}$/.test(digits) ? parseInt(digits, 16) : undefined;
}

/** How a token is named in a message. */
export function describe(token: Token): string {
  return token.kind === 'end' ? 'the end of the stage' : `“${token.text}”`;
}
