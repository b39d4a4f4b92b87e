/**
 * Unicode compatibility decomposition, without combining marks, in lower case. A sigma that ends a word is the sigma it is elsewhere,
 * as CaseFolding.txt has it: otherwise what a text folds to would depend on what stands after it.
 */
export function fold(text: string): string {
  // eslint-disable-next-line no-control-regex -- the range of ASCII, control characters among it
  if (/^[\x00-\x7f]*$/.test(text)) return text.toLowerCase();
  return text
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .toLowerCase()
    .normalize('NFKD')
    .replace(/\p{M}+/gu, '')
    .replaceAll('ς', 'σ');
}
