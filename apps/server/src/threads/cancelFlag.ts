/** A flag that threads share; not zero means: end. */
export class CancelFlag {
  readonly buffer = new SharedArrayBuffer(4);
  private readonly view = new Int32Array(this.buffer);
  private readonly controller = new AbortController();

  cancel(): void {
    Atomics.store(this.view, 0, 1);
    this.controller.abort();
  }

  get isCancelled(): boolean {
    return Atomics.load(this.view, 0) !== 0;
  }

  /** Aborted when the flag is set. */
  get signal(): AbortSignal {
    return this.controller.signal;
  }
}
