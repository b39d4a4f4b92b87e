/** Cuts keys at the commas between them: those inside brackets and texts belong to a key. */
export function splitKeys(text: string): string[] {
  const keys: string[] = [];
  let depth = 0;
  let quote = '';
  let from = 0;
  for (let i = 0; i < text.length; i++) {
    const sign = text[i]!;
    if (quote !== '') {
      if (sign === '\\') i++;
      else if (sign === quote) quote = '';
    } else if (sign === '"' || sign === "'") quote = sign;
    else if ('([{'.includes(sign)) depth++;
    else if (')]}'.includes(sign)) depth--;
    else if (sign === ',' && depth === 0) {
      keys.push(text.slice(from, i));
      from = i + 1;
    }
  }
  return [...keys, text.slice(from)].map((key) => key.trim()).filter((key) => key !== '');
}
