import type { UnderWay } from '@zesty-sieve/contract';

/** Something that others should know of: which collection has other documents, or that a list has changed. */
export interface ServerEvent {
  readonly kind: 'collections' | 'documents' | 'indexes' | 'pipelines' | 'runs' | 'work';
  readonly collection?: string;
  /** All that is under way. */
  readonly work?: readonly UnderWay[];
}

/** Tells whoever listens of what changes. */
export class Events {
  private readonly listeners = new Set<(event: ServerEvent) => void>();
  private readonly ends = new Set<() => void>();

  /** Tells of what changes from now on. @returns how to end it */
  listen(listener: (event: ServerEvent) => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** Told when nothing more will be told: what is listened to is closed. @returns how not to be */
  whenEnded(work: () => void): () => void {
    this.ends.add(work);
    return () => this.ends.delete(work);
  }

  end(): void {
    for (const work of this.ends) work();
  }

  tell(event: ServerEvent): void {
    for (const listener of this.listeners) listener(event);
  }
}
