import { isObject, writeField, type Json, type JsonObject } from '@zesty-sieve/core';

/** JSON Merge Patch, RFC 7396, 2: null removes, objects merge, all else replaces. */
export function mergePatch(target: unknown, patch: unknown): Json {
  if (!isObject(patch)) return patch as Json;
  const merged: JsonObject = {};
  if (isObject(target)) for (const name of Object.keys(target)) writeField(merged, name, target[name]!);
  for (const name of Object.keys(patch)) {
    if (patch[name] === null) delete merged[name];
    else writeField(merged, name, mergePatch(Object.hasOwn(merged, name) ? merged[name] : undefined, patch[name]));
  }
  return merged;
}
