import type { DocumentChange } from '../storage/residentStore.ts';

/** Told of changes once they are made: documents, indexes and shape have moved, and nobody reads until all followers return. */
export type Follower = (changes: readonly DocumentChange[]) => void;

/** Tells whoever follows a collection of what changes in it, in the order in which it does. */
export class ChangeFeed {
  private readonly followers = new Set<Follower>();

  /** @returns ends the following */
  follow(follower: Follower): () => void {
    // One of its own, so that the same function may follow twice.
    const own: Follower = (changes) => follower(changes);
    this.followers.add(own);
    return () => void this.followers.delete(own);
  }

  /** A follower that fails keeps no other from being told; the first failure is thrown at the end. */
  tell(changes: readonly DocumentChange[]): void {
    if (changes.length === 0) return;
    const failures: unknown[] = [];
    for (const follower of [...this.followers]) {
      try {
        follower(changes);
      } catch (error) {
        failures.push(error);
      }
    }
    if (failures.length > 0) throw failures[0];
  }
}
