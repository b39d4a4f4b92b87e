import type { Segment, Selector } from '../language/tree.ts';
import { writeField } from '../values/fields.ts';
import { isObject, type Json, type JsonObject } from '../values/json.ts';

type Path = readonly Segment[];

/**
 * A copy of a value without what paths lead to; the value itself where that is nothing. Where they lead is looked up in the
 * value as it is: that one of them takes an element away moves none that another means.
 * @param paths of names, positions and wildcards
 */
export function without(value: Json, paths: readonly Path[], depth = 0): Json {
  if (Array.isArray(value)) {
    let changed = false;
    const kept: Json[] = [];
    for (let i = 0; i < value.length; i++) {
      const leading = paths.filter((path) => leadsToElement(path[depth]!.selectors[0]!, i, value.length));
      if (leading.length === 0) kept.push(value[i]!);
      else if (leading.some((path) => path.length === depth + 1)) changed = true;
      else {
        const inner = without(value[i]!, leading, depth + 1);
        changed ||= inner !== value[i];
        kept.push(inner);
      }
    }
    return changed ? kept : value;
  }
  if (!isObject(value)) return value;
  let changed = false;
  const copy: JsonObject = {};
  for (const name of Object.keys(value)) {
    const leading = paths.filter((path) => leadsToField(path[depth]!.selectors[0]!, name));
    if (leading.length === 0) writeField(copy, name, value[name]!);
    else if (leading.some((path) => path.length === depth + 1)) changed = true;
    else {
      const inner = without(value[name]!, leading, depth + 1);
      changed ||= inner !== value[name];
      writeField(copy, name, inner);
    }
  }
  return changed ? copy : value;
}

function leadsToElement(selector: Selector, at: number, length: number): boolean {
  if (selector.kind === 'wildcard') return true;
  return selector.kind === 'index' && at === (selector.index < 0 ? length + selector.index : selector.index);
}

function leadsToField(selector: Selector, name: string): boolean {
  return selector.kind === 'wildcard' || (selector.kind === 'name' && selector.name === name);
}
