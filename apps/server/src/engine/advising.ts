import type { Advised, AskedBefore } from '../told/askedBefore.ts';
import { keyTexts, type Engine, type ImaginedView, type IndexRequest, type PlanNode } from '@zesty-sieve/core';
import type { Advice, IndexUsers } from '@zesty-sieve/contract';

const mostAdvised = 4;
const mostCandidates = 10;
/** An index has to spare this share of what its questions read. */
const leastShare = 0.3;

type Keyed = Pick<IndexRequest, 'keys' | 'kind' | 'language' | 'metric'> & { readonly collection: string };

/** What a question would read, with some indexes that are not built and without some that are; undefined where it no longer plans. */
function readsOf(
  engine: Engine,
  { pipeline, parameters }: AskedBefore,
  options: { whatIf?: readonly Keyed[]; ignoreIndexes?: readonly string[]; ifKept?: ImaginedView } = {},
): number | undefined {
  const named = options.whatIf?.map((one, i) => ({ ...one, name: `advised ${i}` }));
  const answer = engine.plan({ pipeline, ...(parameters && { parameters }), ...options, ...(named && { whatIf: named }) });
  if (!answer.ok) return undefined;
  const chosen = answer.value.weighed.filter((way) => way.chosen);
  return chosen.reduce((sum, way) => sum + (way.documentsRead ?? 0), 0);
}

/** What a question reads and would read instead, where that is so much less that it counts as served. */
function servedFrom(before: number | undefined, after: number | undefined): { documentsRead: number; instead: number } | undefined {
  if (before === undefined || after === undefined || before === 0 || after > before * (1 - leastShare)) return undefined;
  return { documentsRead: Math.round(before), instead: Math.round(after) };
}

/**
 * The few indexes that would save most reads over all questions: the one that saves most is taken, then the one that
 * saves most beside it, as long as one is worth it.
 */
export async function adviseOnHistory(engine: Engine, asked: readonly AskedBefore[], pause: () => Promise<void>): Promise<Advice['build']> {
  const candidates = new Map<string, Advised & { weight: number }>();
  for (const { suggestions, runs } of asked) {
    for (const one of suggestions) {
      const advised = withoutBuilt(engine, one);
      if (advised === undefined) continue;
      const key = JSON.stringify(advised);
      candidates.set(key, { ...advised, weight: (candidates.get(key)?.weight ?? 0) + runs });
    }
  }
  const pool = [...candidates.values()].sort((a, b) => b.weight - a.weight).slice(0, mostCandidates);
  const taken: Advised[] = [];
  const advised: Advice['build'] = [];
  let now = asked.map((one) => readsOf(engine, one));
  while (taken.length < mostAdvised) {
    let best: { candidate: Advised; reads: (number | undefined)[]; saved: number } | undefined;
    for (const candidate of pool) {
      if (taken.includes(candidate)) continue;
      await pause();
      const reads = asked.map((one, i) =>
        now[i] === undefined
          ? undefined
          : (readsOf(engine, one, {
              whatIf: [...taken, candidate].filter(({ collection }) => isThere(engine, collection)).flatMap(eachOf),
            }) ?? now[i]),
      );
      const saved = reads.reduce<number>((sum, read, i) => sum + Math.max(0, (now[i] ?? 0) - (read ?? 0)) * asked[i]!.runs, 0);
      if (best === undefined || saved > best.saved) best = { candidate, reads, saved };
    }
    if (best === undefined || best.saved <= 0) break;
    const { candidate, reads } = best;
    const serves = asked.flatMap(({ pipeline, name, runs }, i) => {
      const served = servedFrom(now[i], reads[i]);
      return served === undefined ? [] : [{ pipeline, name, runs, ...served }];
    });
    if (serves.length === 0) break;
    taken.push(candidate);
    advised.push({
      collection: candidate.collection,
      keys: [...candidate.keys],
      ...ofKind(candidate),
      ...(candidate.beside && { beside: candidate.beside.map((keys) => [...keys]) }),
      documentsSaved: Math.round(serves.reduce((sum, one) => sum + (one.documentsRead - one.instead) * one.runs, 0)),
      serves: serves.sort((a, b) => (b.documentsRead - b.instead) * b.runs - (a.documentsRead - a.instead) * a.runs).slice(0, 8),
    });
    now = reads;
  }
  return advised;
}

/** What has not been built since; undefined where all of it has. */
function withoutBuilt(engine: Engine, advised: Advised): Advised | undefined {
  const { collection } = advised;
  const built = new Set(engine.collections.get(collection)?.indexList.map(({ definition }) => `${definition.kind} ${definition.language ?? ''} ${keyTexts(definition).join()}`)); // prettier-ignore
  const [first, ...beside] = eachOf(advised).filter(({ keys, kind = 'ordered', language = '' }) => !built.has(`${kind} ${language} ${keys.join()}`)); // prettier-ignore
  if (first === undefined) return undefined;
  return { collection, keys: first.keys, ...ofKind(advised), ...(beside.length > 0 && { beside: beside.map(({ keys }) => keys) }) };
}

function ofKind({ kind, language, metric }: Advised): Pick<Advised, 'kind' | 'language' | 'metric'> {
  return { ...(kind !== undefined && { kind }), ...(language !== undefined && { language }), ...(metric !== undefined && { metric }) };
}

/** One of another kind than the ordered one is of use by itself. */
function eachOf({ collection, keys, beside = [], ...own }: Advised): Keyed[] {
  return [{ collection, keys, ...ofKind({ collection, keys, ...own }) }, ...beside.map((one) => ({ collection, keys: one }))];
}

function isThere(engine: Engine, collection: string): boolean {
  return engine.collections.has(collection);
}

/** Which of the questions would read less with indexes that are not built, or with rows that are not kept. */
export async function servedByWhatIf(
  engine: Engine,
  imagined: { readonly whatIf: readonly (IndexRequest & { readonly collection: string })[] } | { readonly ifKept: ImaginedView },
  asked: readonly AskedBefore[],
  pause: () => Promise<void>,
): Promise<Advice['build'][number]['serves']> {
  const serves: Advice['build'][number]['serves'] = [];
  for (const one of asked) {
    await pause();
    const served = servedFrom(readsOf(engine, one), readsOf(engine, one, imagined));
    const { pipeline, name, runs } = one;
    if (served !== undefined) serves.push({ pipeline, name, runs, ...served });
  }
  return serves.sort((a, b) => (b.documentsRead - b.instead) * Math.max(1, b.runs) - (a.documentsRead - a.instead) * Math.max(1, a.runs));
}

/** Who would read more without an index: planned with it and without it. */
export async function usersOf(
  engine: Engine,
  collection: string,
  index: string,
  asked: readonly AskedBefore[],
  pause: () => Promise<void>,
): Promise<IndexUsers['users']> {
  const users: IndexUsers['users'] = [];
  for (const one of asked) {
    await pause();
    const answer = engine.plan({ pipeline: one.pipeline, ...(one.parameters && { parameters: one.parameters }) });
    if (!answer.ok || !uses(answer.value.plan, collection, index)) continue;
    const [documentsRead, without] = [readsOf(engine, one), readsOf(engine, one, { ignoreIndexes: [index] })];
    if (documentsRead === undefined || without === undefined) continue;
    users.push({
      pipeline: one.pipeline,
      name: one.name,
      runs: one.runs,
      documentsRead: Math.round(documentsRead),
      without: Math.round(without),
    });
  }
  return users.sort((a, b) => (b.without - b.documentsRead) * Math.max(1, b.runs) - (a.without - a.documentsRead) * Math.max(1, a.runs));
}

function uses(step: PlanNode, collection: string, index: string): boolean {
  const own = step.collection === collection && (step.index === index || (step.indexes?.includes(index) ?? false));
  return own || step.inputs.some((input) => uses(input, collection, index));
}
