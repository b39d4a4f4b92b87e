import { findings } from '../../diagnostics/findings.ts';
import type { Span } from '../../span.ts';
import type { Literal } from '../../tree.ts';
import type { Reader } from './reader.ts';

/** A number literal; `sign` is the minus before it where it belongs to the literal. */
export function parseNumber(reader: Reader, sign?: Span): Literal {
  const token = reader.take();
  const span = { from: sign?.from ?? token.from, to: token.to };
  const text = (sign ? '-' : '') + token.text;
  if (/^-?0\d/.test(text)) reader.reject(findings.leadingZero(span, text));
  const value = Number(text);
  const whole = /^-?\d+$/.test(text);
  if (!Number.isFinite(value) || (whole && BigInt(value) !== BigInt(text))) {
    reader.reject(findings.inexactNumber(span, text));
  }
  return { kind: 'literal', value, ...reader.place(span) };
}

/** The whole number of an index or a slice bound (RFC 9535, 2.1.1: the I-JSON range). */
export function parseInteger(reader: Reader): { value: number } & Span {
  const start = reader.token;
  const minus = reader.takeSign('-');
  const token = reader.token;
  if (token.kind !== 'number' || (minus && !reader.adjacent)) reader.fail('a whole number');
  const text = (minus ? '-' : '') + token.text;
  const span = { from: start.from, to: token.to };
  if (!/^(?:0|-?[1-9]\d*)$/.test(text) || !Number.isSafeInteger(Number(text))) {
    reader.reject(findings.badIndex(span, text));
  }
  reader.take();
  return { value: Number(text), ...span };
}
