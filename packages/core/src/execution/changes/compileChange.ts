import { compileValue } from '../../expressions/compile.ts';
import type { Context, Site } from '../../expressions/context.ts';
import type { ChangeStep } from '../../language/stages/stage.ts';
import type { PathExpression, Segment } from '../../language/tree.ts';
import { equalValues } from '../../values/equality.ts';
import { readElement, readField, writeField } from '../../values/fields.ts';
import { isObject, type Json, type JsonObject, type Value } from '../../values/json.ts';
import { without } from '../omitting.ts';

/** What becomes of a document: another one, or undefined where it is deleted. The document itself is left as it is. */
export type ChangeDocument = (document: JsonObject, context: Context) => Json | undefined;

/** One step, with its values made already: from what the document has become so far. */
type Work = (soFar: Json) => Json | undefined;

/** Compiles the steps of a change. All their values are made from the document as it was; then they follow one another. */
export function compileChange(steps: readonly ChangeStep[]): ChangeDocument {
  const prepared = steps.map(prepare);
  return (document, context) =>
    prepared
      .map((step) => step(document, context))
      .reduce<Json | undefined>((soFar, work) => (soFar === undefined ? undefined : work(soFar)), document);
}

function prepare(step: ChangeStep): (document: JsonObject, context: Context) => Work {
  switch (step.kind) {
    case 'set': {
      const items = step.items.map((item) => ({ ...item, evaluate: compileValue(item.expression), site: siteOf(item.target) }));
      return (document, context) => {
        const values = items.map(({ evaluate }) => evaluate(document, context));
        return (soFar) =>
          items.reduce(
            (at, { target, site }, i) => put(at, target.segments, 0, values[i], (found) => void context.misfits.note(site, 0, found)),
            soFar,
          );
      };
    }
    case 'remove': {
      const paths = step.paths.map(({ segments }) => segments);
      return () => (soFar) => without(soFar, paths);
    }
    case 'append': {
      const evaluate = compileValue(step.expression);
      return onArray(step.target, evaluate, (list, value) => [...list, value]);
    }
    case 'take': {
      const evaluate = compileValue(step.expression);
      return onArray(step.target, evaluate, (list, value) =>
        list.some((item) => equalValues(item, value)) ? list.filter((item) => !equalValues(item, value)) : undefined,
      );
    }
    case 'replace': {
      const evaluate = compileValue(step.expression);
      return (document, context) => {
        const value = evaluate(document, context);
        return (soFar) => (isObject(value) ? value : soFar);
      };
    }
    case 'delete':
      return () => () => undefined;
  }
}

/** A change of the array at a path: a missing one is begun by appending, anything else there is left and counted. */
function onArray(
  target: PathExpression,
  evaluate: (document: JsonObject, context: Context) => Value,
  change: (list: readonly Json[], value: Json) => Json[] | undefined,
): (document: JsonObject, context: Context) => Work {
  const site = siteOf(target);
  return (document, context) => {
    const value = evaluate(document, context);
    return (soFar) => {
      if (value === undefined) return soFar;
      const found = valueAt(soFar, target.segments);
      const misplaced = (at: Value) => void context.misfits.note(site, 0, at);
      if (found !== undefined && !Array.isArray(found)) {
        misplaced(found);
        return soFar;
      }
      const changed = change(found ?? [], value);
      return changed === undefined ? soFar : put(soFar, target.segments, 0, changed, misplaced);
    };
  };
}

/** Where a step writes, for counting the documents in which it could not. */
function siteOf(target: PathExpression): Site {
  const names = target.segments.slice(0, -1).flatMap(({ selectors: [selector] }) => (selector.kind === 'name' ? [selector.name] : []));
  return { id: target.id, text: (say) => say.expression(target), operands: [(say) => say.field(names)] };
}

function valueAt(value: Value, segments: readonly Segment[]): Value {
  return segments.reduce<Value>((at, { selectors: [selector] }) => {
    if (selector.kind === 'name') return at === undefined ? undefined : readField(at, selector.name);
    return selector.kind === 'index' ? readElement(at, selector.index) : undefined;
  }, value);
}

/**
 * A copy of a value with another at a path, or without it where the other is nothing. Missing objects on the way are
 * made; where something else stands on the way it is left and told.
 */
function put(at: Json, segments: readonly Segment[], i: number, value: Value, misplaced: (found: Value) => void): Json {
  const [selector] = segments[i]!.selectors;
  const isLast = i === segments.length - 1;
  const below = (item: Json): Json => (isLast ? (value ?? item) : put(item, segments, i + 1, value, misplaced));
  if (selector.kind === 'wildcard') {
    if (Array.isArray(at)) return at.map(below);
    if (!isObject(at)) return left(at, misplaced);
    const copy: JsonObject = {};
    for (const name of Object.keys(at)) writeField(copy, name, below(at[name]!));
    return copy;
  }
  if (selector.kind === 'index') {
    if (!Array.isArray(at)) return left(at, misplaced);
    const place = selector.index < 0 ? at.length + selector.index : selector.index;
    return place in at ? at.map((item, k) => (k === place ? below(item) : item)) : at;
  }
  if (selector.kind !== 'name' || !isObject(at)) return left(at, misplaced);
  const found = readField(at, selector.name);
  let next: Value = value;
  if (!isLast) {
    const makes = found === undefined && value !== undefined && segments[i + 1]!.selectors[0]!.kind === 'name';
    if (found === undefined && !makes) return at;
    next = put(found ?? {}, segments, i + 1, value, misplaced);
    if (next === found) return at;
  }
  if (next === undefined && found === undefined) return at;
  const copy: JsonObject = { ...at };
  if (next === undefined) delete copy[selector.name];
  else writeField(copy, selector.name, next);
  return copy;
}

function left(at: Json, misplaced: (found: Value) => void): Json {
  misplaced(at);
  return at;
}
