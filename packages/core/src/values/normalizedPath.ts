/** One step from a value to a part of it: a field name or an array position. */
export type Step = string | number;

/** The normalized path of RFC 9535, 2.7: `$['name'][0]`, single-quoted, with the escapes named there. */
export function normalizedPath(steps: readonly Step[]): string {
  let text = '$';
  for (const step of steps) text += typeof step === 'number' ? `[${step}]` : `['${escaped(step)}']`;
  return text;
}

const short: Record<string, string> = {
  '\b': '\\b',
  '\t': '\\t',
  '\n': '\\n',
  '\f': '\\f',
  '\r': '\\r',
  "'": "\\'",
  '\\': '\\\\',
};

function escaped(name: string): string {
  // eslint-disable-next-line no-control-regex -- the standard names exactly these characters
  return name.replace(/[\u0000-\u001f'\\]/g, (unit) => {
    return short[unit] ?? '\\u' + unit.charCodeAt(0).toString(16).padStart(4, '0');
  });
}
