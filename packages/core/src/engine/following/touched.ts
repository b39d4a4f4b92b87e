import type { PlannedStage } from '../../planner/logical.ts';
import type { DocumentChange } from '../../storage/residentStore.ts';
import type { Collection } from '../collection.ts';
import { isJoinStage, type Followed } from './followed.ts';
import { runNow, someOf, type Find } from './runStages.ts';
import type { Touched } from './units.ts';

/** What has changed of a source since the rows were last brought up. */
export class SourceChanges {
  /** What each document was, by its position. */
  readonly before = new Map<number, DocumentChange['before']>();
  readonly versions: NonNullable<DocumentChange['before']>[] = [];
  readonly collection: Collection;
  readonly end: () => void;
  private readonly most: number;

  constructor(collection: Collection, most: number) {
    this.collection = collection;
    this.most = most;
    this.end = collection.changes.follow((changes) => this.take(changes));
  }

  get areMany(): boolean {
    return this.before.size > this.most;
  }

  private take(changes: readonly DocumentChange[]): void {
    if (this.areMany) return;
    for (const { position, before, after } of changes) {
      if (!this.before.has(position)) this.before.set(position, before);
      if (this.areMany) return void (this.versions.length = 0);
      if (before !== undefined) this.versions.push(before);
      if (after !== undefined) this.versions.push(after);
    }
  }

  clear(): void {
    this.before.clear();
    this.versions.length = 0;
  }
}

const changedPartners = '#changed';

/**
 * The documents whose rows may have changed: those that changed, and those that met a partner as it was, or meet it as it is. Found by
 * joining with the partners that changed alone, so that whatever a join asks for is asked.
 */
export function touchedDocuments({ from, rowWise }: Followed, changes: ReadonlyMap<string, SourceChanges>, find: Find): Touched {
  const own = changes.get(from.stage.source);
  const touched = new Set(own?.before.keys());
  let haveMet = false;
  rowWise.forEach((one, at) => {
    if (!isJoinStage(one)) return;
    const versions = changes.get(one.stage.source)?.versions ?? [];
    if (versions.length === 0) return;
    haveMet = true;
    const partners = someOf(changedPartners, versions);
    const join = { ...one, stage: { ...one.stage, kind: 'join', source: changedPartners } } as PlannedStage;
    const { positions } = runNow([...rowWise.slice(0, at), join], (name) => (name === changedPartners ? partners : find(name)));
    for (const position of positions) touched.add(position);
  });
  // Cleared once they have been taken up.
  return { positions: touched, before: haveMet ? undefined : new Map(own?.before) };
}
