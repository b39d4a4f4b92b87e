import { findings } from '../../diagnostics/findings.ts';
import { isLoneSurrogate, matchAt, namePattern, numberPattern, type Sign, type Token } from '../notation/tokens.ts';
import { faults } from './faults.ts';

/** Signs as they are written, and as the reader knows them. Longer ones stand before their beginnings. */
const signs: readonly (readonly [string, Sign])[] = [
  ['<>', '!='], ['!=', '!='], ['<=', '<='], ['>=', '>='], ['||', '||'],
  ...(['.', '[', ']', '(', ')', ',', ':', '*', '<', '>', '+', '-', '/', '%', '='] as const).map((sign) => [sign, sign] as const),
]; // prettier-ignore
const blank = /\s+/y;
const lineComment = /--[^\n]*/y;

/**
 * Cuts a text of SQL into tokens (ISO/IEC 9075-2, 5.2): names as they are written, `"quoted"` names, `'texts'`, numbers, signs.
 * The last is `end`; a closing `;` is no token.
 */
export function tokenizeSql(text: string): Token[] {
  const tokens: Token[] = [];
  let at = 0;
  for (;;) {
    at += matchAt(blank, text, at)?.length ?? 0;
    if (at >= text.length) break;
    const token = tokenAt(text, at);
    at = token.to;
    if (token.kind !== 'broken' || token.text !== ';') tokens.push(token);
    else if (/^(?:\s|;|--[^\n]*\n?|\/\*[\s\S]*?\*\/)*$/.test(text.slice(at))) break;
    else tokens.push(token);
  }
  const to = tokens[tokens.length - 1]?.to ?? 0;
  tokens.push({ kind: 'end', text: '', from: to, to });
  return tokens;
}

function tokenAt(text: string, from: number): Token {
  const first = text[from]!;
  const comment = matchAt(lineComment, text, from);
  if (comment !== undefined) return { kind: 'comment', text: comment, from, to: from + comment.length };
  if (text.startsWith('/*', from)) {
    const end = text.indexOf('*/', from + 2);
    const to = end < 0 ? text.length : end + 2;
    const span = { from, to };
    return end < 0 ? { kind: 'broken', text: '/*', ...span, finding: faults.openComment(span) } : { kind: 'comment', text: text.slice(from, to), ...span }; // prettier-ignore
  }
  if (first === "'" || first === '"') return quotedAt(text, from, first);
  const named = matchAt(namePattern, text, from);
  if (named !== undefined) return { kind: 'name', text: named, from, to: from + named.length };
  const digits = matchAt(numberPattern, text, from);
  if (digits !== undefined) return { kind: 'number', text: digits, from, to: from + digits.length };
  const sign = signs.find(([written]) => text.startsWith(written, from));
  if (sign !== undefined) return { kind: 'sign', text: sign[1], from, to: from + sign[0].length };
  const stray = String.fromCodePoint(text.codePointAt(from) ?? 0);
  const span = { from, to: from + stray.length };
  return { kind: 'broken', text: stray, ...span, finding: stray === ';' ? faults.secondQuestion(span) : faults.stray(span, stray) };
}

/** A text or a quoted name; the quote itself is written twice. */
function quotedAt(text: string, from: number, quote: string): Token {
  let at = from + 1;
  let value = '';
  for (;;) {
    const end = text.indexOf(quote, at);
    if (end < 0) {
      const span = { from, to: text.length };
      return { kind: 'broken', text: text.slice(from), ...span, finding: findings.openString(span, quote) };
    }
    value += text.slice(at, end);
    if (text[end + 1] !== quote) {
      const span = { from, to: end + 1 };
      for (let i = 0; i < value.length; i += value.codePointAt(i)! > 0xffff ? 2 : 1) {
        if (isLoneSurrogate(value, i)) return { kind: 'broken', text: value, ...span, finding: findings.strayCharacter(span, value[i]!) };
      }
      const written = text.slice(from, end + 1);
      return quote === "'" ? { kind: 'string', text: written, value, ...span } : { kind: 'name', text: value, quoted: true, ...span };
    }
    value += quote;
    at = end + 2;
  }
}
