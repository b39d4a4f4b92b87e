import { RE2JS } from 're2js';
import { readPattern, type ReadPattern } from '../../values/iRegexp.ts';

type Matcher = (text: string) => boolean;
const never: Matcher = () => false;
const kept = new Map<string, Matcher>();
const keptLimit = 500;

/**
 * A matcher of an I-Regexp on whole texts (`match`) or on parts (`search`), linear in the text's length: the
 * built-in matcher where it cannot backtrack far, RE2 elsewhere. What is no I-Regexp matches nothing
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
  if (extent === 'whole') {
    const linear = RE2JS.compile(read.source);
    return (text) => linear.matches(text);
  }
  const linear = RE2JS.compile(anchoredSource(read));
  return (text) => linear.matcher(text).find();
}
