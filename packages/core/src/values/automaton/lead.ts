import type { PatternTree } from './patternTree.ts';

/** A text that can be read in more ways than this takes a matcher that goes back too long. */
const fewChoices = 32;
const mostRepeats = 64;

/**
 * What every text that fits has in it, by a pattern on which the built-in matcher cannot go far back: the beginning of a pattern, up to
 * where something repeats without bound. Undefined where there is none to speak of.
 * @param branches the alternatives at the top of a pattern
 */
export function leadOf(branches: readonly PatternTree[]): string | undefined {
  const [only] = branches;
  if (branches.length !== 1 || only?.kind !== 'sequence') return undefined;
  let choices = 1;
  const written: string[] = [];
  for (const part of only.parts) {
    const bounded = boundedOf(part);
    if (bounded !== undefined) choices *= bounded.choices;
    if (bounded === undefined || choices > fewChoices) {
      // What repeats is there once at least.
      if (part.kind === 'repeat' && part.least > 0 && part.part.kind === 'one') written.push(part.part.source);
      break;
    }
    written.push(bounded.source);
  }
  return written.length === 0 ? undefined : written.join('');
}

/** A part as it is written, with the ways in which it may be read; undefined where something in it repeats without bound, or in groups. */
function boundedOf(tree: PatternTree): { readonly source: string; readonly choices: number } | undefined {
  switch (tree.kind) {
    case 'one':
      return { source: tree.source, choices: 1 };
    case 'sequence':
    case 'choice': {
      const parts = (tree.kind === 'sequence' ? tree.parts : tree.branches).map(boundedOf);
      const known = parts.flatMap((part) => part ?? []);
      if (known.length < parts.length) return undefined;
      const inside = known.reduce((product, { choices }) => product * choices, tree.kind === 'choice' ? known.length : 1);
      const sources = known.map(({ source }) => source);
      return { source: tree.kind === 'sequence' ? sources.join('') : `(?:${sources.join('|')})`, choices: inside };
    }
    case 'repeat': {
      const { part, least, most } = tree;
      if (part.kind !== 'one' || most > mostRepeats) return undefined;
      return { source: `${part.source}{${least},${most}}`, choices: most - least + 1 };
    }
  }
}
