import type { RowList } from '../execution/rowList.ts';
import { answered, refused, type Answer, type Approximation, type RowsPage } from './requests.ts';
import { estimateBytes } from '../values/size.ts';

export interface KeptRun {
  readonly rows: RowList;
  readonly collection: string;
  /** Rows that the run returned; fewer may be kept. */
  readonly rowsReturned: number;
  /** Where rows may be lacking that belong to them; null where all are there. */
  readonly approximate: Approximation | null;
}

const keptMs = 10 * 60_000;
/** What keeping a run takes beside its rows. */
const ownBytes = 1_024;
/** The rows of all runs together, unless it is said otherwise. */
const usualBytes = 256 * 1024 * 1024;

/** The rows of recent runs, so that a result is paged without running again: ten minutes at least, within a bound. */
export class KeptRuns {
  private readonly runs = new Map<string, { run: KeptRun; bytes: number; lastUsed: number }>();
  private bytes = 0;
  private readonly now: () => number;
  private readonly mostBytes: number;

  constructor(now: () => number, mostBytes = usualBytes) {
    this.now = now;
    this.mostBytes = mostBytes;
  }

  /** `owned` says whether the rows are the run's own rather than resident documents. */
  keep(id: string, run: KeptRun, owned: boolean): void {
    const bytes = ownBytes + run.rows.length * 16 + (owned ? sampledBytes(run.rows) : 0);
    this.runs.set(id, { run, bytes, lastUsed: this.now() });
    this.bytes += bytes;
    this.makeRoom(id);
  }

  find(id: string): KeptRun | undefined {
    const found = this.runs.get(id);
    if (found === undefined) return undefined;
    found.lastUsed = this.now();
    // The map's order is that of the last use.
    this.runs.delete(id);
    this.runs.set(id, found);
    return found.run;
  }

  /** A page of the rows of a run. */
  page(id: string, offset: number, size: number): Answer<RowsPage> {
    const found = this.find(id);
    if (found === undefined) return refused({ kind: 'gone', message: 'The rows of this run are no longer kept. Run it again.' });
    const { rows, rowsReturned, approximate } = found;
    return answered({ documents: rows.slice(offset, offset + size), hasMore: offset + size < rows.length, rowsReturned, approximate });
  }

  private makeRoom(newest: string): void {
    const now = this.now();
    for (const [id, { bytes, lastUsed }] of this.runs) {
      if (id === newest) continue;
      const old = now - lastUsed > keptMs;
      if (!old && this.bytes <= this.mostBytes) break;
      this.runs.delete(id);
      this.bytes -= bytes;
    }
  }
}

function sampledBytes(rows: RowList): number {
  const step = Math.max(1, Math.floor(rows.length / 500));
  let bytes = 0;
  for (let i = 0; i < rows.length; i += step) bytes += estimateBytes(rows.at(i)) * step;
  return bytes;
}
