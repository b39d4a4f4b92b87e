import { isChangeStep, type ChangeStep, type Json, type PathExpression, usualSurface } from '@zesty-sieve/core/language';
import { holds, value, type Scope } from './expressions.ts';
import { without, type World } from './stages.ts';
import { copied, equal, field, isFields, setField, type Fields, type Value } from './values.ts';

/** What a change means: for each document that it changes, what becomes of it; nothing where it is deleted. */
export function changed(text: string, world: World): { before: Fields; after: Fields | undefined }[] {
  const stages = usualSurface.parse(text).stages.flatMap(({ stage, off }) => (stage === undefined || off ? [] : [stage]));
  const scopeOf = (row: Json): Scope => ({ current: row, whole: row, partners: {}, parameters: world.parameters, now: world.now });
  const steps = stages.filter(isChangeStep);
  return world.data.c.flatMap((before) => {
    const scope = scopeOf(before);
    if (!stages.every((stage) => stage.kind !== 'where' || holds(stage.condition, scope))) return [];
    let now: Json | undefined = before;
    for (const step of steps) now = now === undefined ? undefined : after(step, now, scope);
    return now !== undefined && equal(now, before) ? [] : [{ before, after: now as Fields | undefined }];
  });
}

/** Right-hand sides see the document as it was. */
function after(step: ChangeStep, now: Json, scope: Scope): Json | undefined {
  switch (step.kind) {
    case 'set':
      return step.items.reduce((made, { target, expression }) => placed(made, target, 0, value(expression, scope)), now);
    case 'remove':
      return without(now, step.paths.map(({ segments }) => segments)); // prettier-ignore
    case 'append':
    case 'take': {
      const one = value(step.expression, scope);
      const there = reached(now, step.target);
      if (one === undefined || (there !== undefined && !Array.isArray(there))) return now;
      if (step.kind === 'append') return placed(now, step.target, 0, [...(there ?? []), one]);
      return there?.some((item) => equal(item, one)) ? placed(now, step.target, 0, there.filter((item) => !equal(item, one))) : now; // prettier-ignore
    }
    case 'replace': {
      const one = value(step.expression, scope);
      return isFields(one) ? one : now;
    }
    case 'delete':
      return undefined;
  }
}

function reached(from: Json, { segments }: PathExpression): Value {
  return segments.reduce<Value>((at, { selectors: [selector] }) => {
    if (selector.kind === 'name') return field(at, selector.name);
    return selector.kind === 'index' && Array.isArray(at) ? at.at(selector.index) : undefined;
  }, from);
}

/** A value put where a path of names, positions and wildcards leads. Missing objects are made for names; all else stays. */
function placed(at: Json, path: PathExpression, depth: number, one: Value): Json {
  const [selector] = path.segments[depth].selectors;
  const isLast = depth === path.segments.length - 1;
  const inside = (item: Json): Json => (isLast ? (one ?? item) : placed(item, path, depth + 1, one));
  if (selector.kind === 'wildcard') {
    if (Array.isArray(at)) return at.map(inside);
    if (!isFields(at)) return at;
    const copy: Fields = {};
    for (const name of Object.keys(at)) setField(copy, name, inside(at[name]));
    return copy;
  }
  if (selector.kind === 'index') {
    if (!Array.isArray(at)) return at;
    const place = selector.index < 0 ? at.length + selector.index : selector.index;
    return at.map((item, i) => (i === place ? inside(item) : item));
  }
  if (selector.kind !== 'name' || !isFields(at)) return at;
  const copy = copied(at);
  if (isLast) {
    if (one === undefined) delete copy[selector.name];
    else setField(copy, selector.name, one);
    return copy;
  }
  const below = field(at, selector.name);
  if (below === undefined) {
    if (one === undefined || path.segments[depth + 1].selectors[0].kind !== 'name') return at;
  }
  setField(copy, selector.name, placed(below ?? {}, path, depth + 1, one));
  return copy;
}
