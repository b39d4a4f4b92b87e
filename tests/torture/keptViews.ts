import type { JsonObject } from '@zesty-sieve/core';
import type { Random } from './random.ts';
import type { Case, World } from './world.ts';

/** A view that keeps the beginning of a question, and what is asked of it. */
export interface KeptBeginning {
  readonly view: string;
  readonly questions: readonly string[];
}

const grouping = /^group by (@[.\w]+(?:, @[.\w]+)*)(?= measure |$)/;

/**
 * Views that keep a part of what a question begins with, each with the question itself, with a further condition before its last kept line,
 * and with a coarser group in the place of the one that is kept.
 * @param random picks one of them; all are made without it
 */
export function keptBeginnings(lines: readonly string[], random?: Random): KeptBeginning[] {
  const all = ['from c', ...lines];
  const ends = lines.map((_, i) => i + 2);
  return (random === undefined || ends.length === 0 ? ends : [random.pick(ends)]).map((end) => {
    const last = all[end - 1]!;
    const keys = grouping.exec(last)?.[1]?.split(', ') ?? [];
    const with_ = (...instead: string[]) => [...all.slice(0, end - 1), ...instead, ...all.slice(end)].join('\n');
    const further = keys.flatMap((key) => [`where ${key} != null`, `where exists(${key}) && ${key} > 0`]);
    const coarser = keys.length < 2 ? [] : keys.map((key) => last.replace(keys.join(', '), key));
    return {
      view: all.slice(0, end).join('\n'),
      questions: [all.join('\n'), ...further.map((one) => with_(one, last)), ...coarser.map((one) => with_(one))],
    };
  });
}

/** Keeps rows as a view of a world's engine, as they come out of a file. @returns lets go of them */
export function keep({ engine }: World, pipeline: string, parameters: Case['parameters'], rows: readonly unknown[]): () => void {
  const collection = engine.define('kept', '@["#"]');
  collection.storedVersion = 1;
  rows.forEach((row, position) => collection.store.put(position, JSON.parse(JSON.stringify(row)) as JsonObject));
  engine.setKeptViews([
    { name: 'kept', view: { pipeline, parameters }, isFresh: true, version: 1, refreshedAt: null, notes: [], approximate: null },
  ]);
  return () => {
    engine.setKeptViews([]);
    engine.remove('kept');
  };
}
