import { quoted } from './writer.ts';

/** What stands before and after a text in the pattern of LIKE that says the same as a function. */
const surrounds: Readonly<Record<string, readonly [string, string]>> = {
  starts_with: ['', '%'],
  ends_with: ['%', ''],
  contains: ['%', '%'],
};

/** A text in a pattern that means itself. */
export const escaped = (text: string): string => text.replace(/[%_!]/g, '!$&');
export const like = (pattern: string, isEscaped: boolean): string => `LIKE ${quoted(pattern)}${isEscaped ? " ESCAPE '!'" : ''}`;

/** The pattern of LIKE that an I-Regexp was made of; undefined for any other. */
function likeOf(pattern: string): string | undefined {
  const any = '(.|\\n|\\r)';
  let like = '';
  for (let at = 0; at < pattern.length;) {
    if (pattern.startsWith(`${any}*`, at)) [like, at] = [`${like}%`, at + any.length + 1];
    else if (pattern.startsWith(any, at)) [like, at] = [`${like}_`, at + any.length];
    else if (pattern[at] === '\\')
      [like, at] = [like + escaped({ n: '\n', r: '\r', t: '\t' }[pattern[at + 1]!] ?? pattern[at + 1]!), at + 2];
    else if (/[.?*+(){}[\]|^$]/.test(pattern[at]!)) return undefined;
    else [like, at] = [like + escaped(pattern[at]!), at + 1];
  }
  return like;
}

/** The pattern of LIKE that holds for the same texts as a test of the notation; undefined where there is none. */
export function likePattern(test: string, constant: string): string | undefined {
  if (test === 'match') return likeOf(constant);
  const around = Object.hasOwn(surrounds, test) ? surrounds[test] : undefined;
  return around && around[0] + escaped(constant) + around[1];
}
