import type { Json } from '@zesty-sieve/core';
import { JsonArrayReader } from '../formats/jsonArray.ts';
import { depthLimit, isTooDeep } from '../formats/scan.ts';
import { BrokenFile } from '../formats/record.ts';
import { ServerProblem } from '../problem.ts';
import type { IdentityReader, ReadyDocument } from './identity.ts';
import { jsonPatched, PatchProblem } from './jsonPatch.ts';
import { mergePatch } from './mergePatch.ts';

export type PatchKind = 'json-patch' | 'merge-patch';

/** All documents of a JSON text, ready to be stored. */
export function readAll(body: Uint8Array, identity: IdentityReader): ReadyDocument[] {
  const reader = new JsonArrayReader();
  try {
    const text = new TextDecoder('utf-8', { fatal: true }).decode(body);
    const records = [...reader.push(text), ...reader.end()];
    return records.map(({ text: element }, i) => {
      const ready = identity.ready(element ?? '');
      if (!('problem' in ready)) return ready;
      if (ready.problem.startsWith('it is no JSON')) throw new BrokenFile(`Document ${i + 1} cannot be read: ${ready.problem}.`);
      throw new ServerProblem('/document', `Document ${i + 1} cannot be stored: ${ready.problem}. Nothing was stored.`);
    });
  } catch (error) {
    if (error instanceof BrokenFile || error instanceof TypeError)
      throw new ServerProblem('/malformed', `The body is no JSON: ${error.message}`);
    throw error;
  }
}

/**
 * A document's text with a patch applied (RFC 6902, or RFC 7396).
 * @throws ServerProblem where the patch is none, or does not fit
 */
export function patched(text: string, body: string, kind: PatchKind): string {
  let patch: unknown;
  try {
    patch = JSON.parse(body);
  } catch (error) {
    throw new ServerProblem('/malformed', `The patch is no JSON: ${(error as Error).message}`);
  }
  // A value stands two levels deep in the operations of a JSON Patch.
  if (isTooDeep(body, patch as Json, depthLimit + 2))
    throw new ServerProblem('/document', `The patch is nested more than ${depthLimit} levels deep.`);
  if (kind === 'merge-patch') return JSON.stringify(mergePatch(JSON.parse(text), patch));
  if (!Array.isArray(patch)) throw new ServerProblem('/document', 'A JSON Patch is an array of operations.');
  try {
    return JSON.stringify(jsonPatched(JSON.parse(text) as Json, patch));
  } catch (error) {
    if (error instanceof PatchProblem) throw new ServerProblem('/document', `The patch cannot be applied: ${error.message}.`);
    throw error;
  }
}
