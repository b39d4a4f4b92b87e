/** I-Regexp (RFC 9485) by sets of places: at each step all places that a text can be read up to. */
type Node =
  | { kind: 'any' }
  | { kind: 'one'; fits: (character: string) => boolean }
  | { kind: 'all'; parts: Node[] }
  | { kind: 'either'; parts: Node[] }
  | { kind: 'repeat'; part: Node; least: number; most: number };

class Broken extends Error {}

function parse(pattern: string): { node: Node; start: boolean; end: boolean } {
  const text = Array.from(pattern);
  let at = 0;
  let end = false;
  const start = text[0] === '^' && !'*+?{'.includes(text[1] ?? ' ');
  if (start) at = 1;
  const fail = (): never => {
    throw new Broken();
  };
  const escaped = (): string => {
    const letter = text[at++] ?? fail();
    return ({ n: '\n', r: '\r', t: '\t' } as Record<string, string>)[letter] ?? letter;
  };
  const category = (): ((character: string) => boolean) | undefined => {
    const letter = text[at + 1];
    if (text[at] !== '\\' || (letter !== 'p' && letter !== 'P')) return undefined;
    const close = text.indexOf('}', at);
    const test = new RegExp(text.slice(at, close + 1).join(''), 'u');
    at = close + 1;
    return (character) => test.test(character);
  };
  const character = (): string => {
    const one = text[at++] ?? fail();
    return one === '\\' ? escaped() : one;
  };
  const atom = (): Node => {
    const byCategory = category();
    if (byCategory) return { kind: 'one', fits: byCategory };
    const one = text[at];
    if (one === '.') return (at++, { kind: 'any' });
    if (one === '(') {
      at++;
      const inner = either(1);
      if (text[at++] !== ')') fail();
      return inner;
    }
    if (one === '[') {
      at++;
      const negated = text[at] === '^';
      if (negated) at++;
      const tests: ((character: string) => boolean)[] = [];
      while (text[at] !== ']') {
        const inClass = category();
        if (inClass) {
          tests.push(inClass);
          continue;
        }
        const low = character();
        if (text[at] === '-' && text[at + 1] !== ']' && low !== '-') {
          at++;
          const high = character();
          tests.push((c) => c.codePointAt(0)! >= low.codePointAt(0)! && c.codePointAt(0)! <= high.codePointAt(0)!);
        } else tests.push((c) => c === low);
      }
      at++;
      return { kind: 'one', fits: (c) => tests.some((test) => test(c)) !== negated };
    }
    const literal = character();
    return { kind: 'one', fits: (c) => c === literal };
  };
  const repeated = (part: Node): Node => {
    const sign = text[at];
    if (sign === '*' || sign === '+' || sign === '?') {
      at++;
      return { kind: 'repeat', part, least: sign === '+' ? 1 : 0, most: sign === '?' ? 1 : Infinity };
    }
    if (sign !== '{') return part;
    const close = text.indexOf('}', at);
    const [least, most] = text
      .slice(at + 1, close)
      .join('')
      .split(',');
    at = close + 1;
    return { kind: 'repeat', part, least: Number(least), most: most === undefined ? Number(least) : most === '' ? Infinity : Number(most) };
  };
  const either = (depth: number): Node => {
    const branches: Node[] = [];
    for (;;) {
      const parts: Node[] = [];
      while (at < text.length && text[at] !== '|' && text[at] !== ')') {
        if (depth === 0 && text[at] === '$' && at === text.length - 1) {
          end = true;
          at++;
        } else parts.push(repeated(atom()));
      }
      branches.push({ kind: 'all', parts });
      if (text[at] !== '|') return { kind: 'either', parts: branches };
      at++;
    }
  };
  const node = either(0);
  if (at < text.length) fail();
  return { node, start, end };
}

function reach(node: Node, text: readonly string[], from: ReadonlySet<number>): Set<number> {
  switch (node.kind) {
    case 'any':
      return step(text, from, (c) => c !== '\n' && c !== '\r');
    case 'one':
      return step(text, from, node.fits);
    case 'all':
      return node.parts.reduce<Set<number>>((places, part) => reach(part, text, places), new Set(from));
    case 'either':
      return new Set(node.parts.flatMap((part) => [...reach(part, text, from)]));
    case 'repeat': {
      let now = new Set(from);
      for (let i = 0; i < node.least; i++) now = reach(node.part, text, now);
      const found = new Set(now);
      for (let i = node.least; i < node.most; i++) {
        now = new Set([...reach(node.part, text, now)].filter((place) => !found.has(place)));
        if (now.size === 0) break;
        for (const place of now) found.add(place);
      }
      return found;
    }
  }
}

function step(text: readonly string[], from: ReadonlySet<number>, fits: (character: string) => boolean): Set<number> {
  const to = new Set<number>();
  for (const place of from) if (place < text.length && fits(text[place])) to.add(place + 1);
  return to;
}

/** Whether the whole of a text fits, or some part of it. Anchors are of the first and the last alternative. */
export function fits(pattern: string, subject: string, extent: 'whole' | 'part'): boolean {
  let parsed: ReturnType<typeof parse>;
  try {
    parsed = parse(pattern);
  } catch (error) {
    if (error instanceof Broken || error instanceof SyntaxError) return false;
    throw error;
  }
  const { node, start, end } = parsed;
  const text = Array.from(subject);
  if (extent === 'whole') return reach(node, text, new Set([0])).has(text.length);
  const branches = node.kind === 'either' ? node.parts : [node];
  return branches.some((branch, i) => {
    const starts = start && i === 0 ? [0] : Array.from({ length: text.length + 1 }, (_, place) => place);
    const ends = reach(branch, text, new Set(starts));
    return end && i === branches.length - 1 ? ends.has(text.length) : ends.size > 0;
  });
}
