import { RE2JS } from 're2js';
import { leadOf } from '../../values/automaton/lead.ts';
import { LinearMatcher } from '../../values/automaton/linearMatcher.ts';
import { patternBranches } from '../../values/automaton/patternTree.ts';
import { TooManyStates } from '../../values/automaton/states.ts';
import { readPattern, type ReadPattern } from '../../values/iRegexp.ts';

type Matcher = (text: string) => boolean;
const never: Matcher = () => false;
const kept = new Map<string, Matcher>();
const keptLimit = 500;

/**
 * A matcher of an I-Regexp on whole texts (`match`) or on parts (`search`), linear in the text's length: the
 * built-in matcher where it cannot backtrack far, an automaton elsewhere, and RE2 where that would be too large. What is no I-Regexp matches nothing
 * (RFC 9535, 2.4.6).
 */
export function matcherOf(pattern: string, extent: 'whole' | 'part'): Matcher {
  const key = extent + pattern;
  let matcher = kept.get(key);
  if (matcher === undefined) {
    matcher = makeMatcher(pattern, extent);
    if (kept.size >= keptLimit) kept.clear();
    kept.set(key, matcher);
  }
  return matcher;
}

function anchoredSource({ source, anchored }: ReadPattern): string {
  return (anchored.start ? '^' : '') + source + (anchored.end ? '$' : '');
}

function makeMatcher(pattern: string, extent: 'whole' | 'part'): Matcher {
  const read = readPattern(pattern);
  if ('problem' in read) return never;
  const safe = extent === 'whole' ? read.safeWhole : read.safePart;
  if (safe) {
    const native = new RegExp(extent === 'whole' ? `^(?:${read.source})$` : anchoredSource(read), 'u');
    return (text) => native.test(text);
  }
  try {
    const linear = new LinearMatcher(read, extent);
    const lead = leadOf(patternBranches(read.source));
    if (lead === undefined) return (text) => linear.test(text);
    // The built-in matcher passes over most texts that do not fit many times faster.
    const begins = new RegExp((extent === 'whole' || read.anchored.start ? '^' : '') + lead, 'u');
    return (text) => begins.test(text) && linear.test(text);
  } catch (error) {
    if (!(error instanceof TooManyStates)) throw error;
  }
  const linear = RE2JS.compile(extent === 'whole' ? read.source : anchoredSource(read));
  return extent === 'whole' ? (text) => linear.matches(text) : (text) => linear.matcher(text).find();
}
