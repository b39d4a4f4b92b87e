import { reply, ServerProblem, type Reply } from '../../problem.ts';
import type { Connections } from '../connections.ts';
import { Exporter, type ExportHow } from '../exporter.ts';
import type { StoredCollection } from '../stored.ts';

/** Each export keeps what the file was when it began. */
const mostExports = 8;

/** Exports that are under way, each by its handle. */
export class Exports {
  private readonly connections: Connections;
  private readonly exports = new Map<number, Exporter | undefined>();
  private nextHandle = 1;

  constructor(connections: Connections) {
    this.connections = connections;
  }

  /** Begins an export of a collection as it is now. @throws ServerProblem where too many are under way */
  beginExport(collection: StoredCollection, how: ExportHow): Promise<Reply<number>> {
    return reply(async () => {
      if (this.exports.size >= mostExports)
        throw new ServerProblem(
          '/busy',
          `${mostExports} exports are under way, each of which keeps the file as it was. Try again when one has ended.`,
        );
      const handle = this.nextHandle++;
      // Its place is taken before anything is waited for.
      this.exports.set(handle, undefined);
      try {
        this.exports.set(handle, new Exporter(await this.connections.snapshot(), collection.id, how));
      } catch (error) {
        this.exports.delete(handle);
        throw error;
      }
      return handle;
    });
  }

  /** The next piece of an export, or null at its end; an export that is not known has not come to its end. */
  nextPiece(handle: number): Promise<Reply<string | null>> {
    return reply(async () => {
      const open = this.exports.get(handle);
      if (open === undefined) throw new ServerProblem('/restarted', 'The storage began anew amid the export. Export again.');
      return open.next();
    });
  }

  async endExport(handle: number): Promise<void> {
    const open = this.exports.get(handle);
    this.exports.delete(handle);
    await open?.close();
  }
}
