/** A pattern taken apart. `one` matches a character, told by the source that a built-in matcher takes for it. */
export type PatternTree =
  | { readonly kind: 'one'; readonly source: string }
  | { readonly kind: 'sequence'; readonly parts: readonly PatternTree[] }
  | { readonly kind: 'choice'; readonly branches: readonly PatternTree[] }
  | { readonly kind: 'repeat'; readonly part: PatternTree; readonly least: number; readonly most: number };

/** One character, a class or an escape; what opens, parts and closes; how often. */
const tokens = /\(\?:|[()|]|\[(?:\\.|[^\]\\])*\]|\\[pP]\{\w+\}|\\.|[*+?]|\{\d+(?:,\d*)?\}|./gsu;

/**
 * Takes the source of a pattern apart that `readPattern` has written: what it takes for right is not looked at again.
 * @returns the alternatives at the top
 */
export function patternBranches(source: string): PatternTree[] {
  const found = source.match(tokens) ?? [];
  let at = 0;
  const branches = (): PatternTree[] => {
    const all: PatternTree[][] = [[]];
    for (; at < found.length && found[at] !== ')'; at++) {
      const token = found[at]!;
      const parts = all[all.length - 1]!;
      if (token === '|') all.push([]);
      else if (token === '(?:') {
        at++;
        parts.push({ kind: 'choice', branches: branches() });
      } else if (isQuantifier(token)) parts.push({ kind: 'repeat', part: parts.pop()!, ...boundsOf(token) });
      else parts.push({ kind: 'one', source: token });
    }
    return all.map((parts) => ({ kind: 'sequence', parts }));
  };
  return branches();
}

function isQuantifier(token: string): boolean {
  return token === '*' || token === '+' || token === '?' || (token.startsWith('{') && token.length > 1);
}

function boundsOf(token: string): { readonly least: number; readonly most: number } {
  if (token === '?') return { least: 0, most: 1 };
  if (token === '*') return { least: 0, most: Infinity };
  if (token === '+') return { least: 1, most: Infinity };
  const [least, most] = token.slice(1, -1).split(',');
  return { least: Number(least), most: most === undefined ? Number(least) : most === '' ? Infinity : Number(most) };
}
