import type { MaterializedView, View } from '@zesty-sieve/core';
import type { StoredCollection } from '../storage/stored.ts';
import { EngineRoom } from './engineRoom.ts';
import { asking } from './services/asking.ts';
import { askingSql } from './services/askingSql.ts';
import { checking } from './services/checking.ts';
import { documents } from './services/documents.ts';
import { following } from './services/following.ts';
import { indexes } from './services/indexes.ts';
import { keeping } from './services/keeping.ts';
import { manyChanges } from './services/manyChanges.ts';
import { measuring } from './services/measuring.ts';
import { resultRows } from './services/resultRows.ts';
import { shapes } from './services/shapes.ts';
import { words } from './services/words.ts';

/**
 * The engine in its thread: everything that looks at documents. Answers are made into JSON text here. Flat, since calls
 * from the other thread go by name.
 */
export function engineService() {
  const room = new EngineRoom();
  return {
    open: (file: string, budgetBytes: number): Promise<void> => room.open(file, budgetBytes),
    close: (): Promise<void> => room.close(),
    /** How many bytes collections may take from now on. */
    setBudget: (bytes: number): void => room.residency.setBudget(bytes),
    /** The saved pipelines that others can read. */
    setViews: (views: readonly (readonly [string, View])[]): void => room.engine.setViews(new Map(views)),
    /** The saved pipelines whose rows are kept, each with the collection in which they lie. */
    setKeptViews: (views: readonly (MaterializedView & { readonly stored: StoredCollection })[]): void => room.setKeptViews(views),
    ...asking(room),
    ...askingSql(room),
    ...resultRows(room),
    ...shapes(room),
    ...documents(room),
    ...following(room),
    ...keeping(room),
    ...checking(room),
    ...manyChanges(room),
    ...indexes(room),
    ...measuring(room),
    ...words(),
  };
}

export type EngineService = ReturnType<typeof engineService>;
