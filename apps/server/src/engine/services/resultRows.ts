import { LeafColumns } from '../../formats/csvOut.ts';
import type { Approximation } from '@zesty-sieve/core';
import { reply, type Reply } from '../../problem.ts';
import { valueOf, type JsonText } from '../answers.ts';
import type { ExportHow } from '../../storage/exporter.ts';
import { pause, type EngineRoom } from '../engineRoom.ts';

const rowsAtOnce = 2_000;

/** The rows of runs that are kept, page by page. */
export function resultRows(room: EngineRoom) {
  let lastColumns: { runId: string; guardsFormulas: boolean; columns: Promise<LeafColumns> } | undefined;
  /** The columns of all rows of a run, gone through in steps so that others are answered between them. */
  const columnsOf = (runId: string, guardsFormulas: boolean): Promise<LeafColumns> => {
    if (lastColumns?.runId === runId && lastColumns.guardsFormulas === guardsFormulas) return lastColumns.columns;
    const columns = found(runId, new LeafColumns(guardsFormulas));
    columns.catch(() => (lastColumns = undefined));
    lastColumns = { runId, guardsFormulas, columns };
    return columns;
  };
  const found = async (runId: string, columns: LeafColumns): Promise<LeafColumns> => {
    for (let offset = 0, more = true; more; offset += rowsAtOnce) {
      const { documents, hasMore } = valueOf(room.engine.rows(runId, offset, rowsAtOnce));
      for (const row of documents) columns.add(row);
      more = hasMore;
      await pause();
    }
    return columns;
  };

  return {
    /** Whether rows are lacking that belong to those of a run; the run is no longer kept where there is a problem. */
    approximationOf(runId: string): Promise<Reply<Approximation | null>> {
      return reply(() => valueOf(room.engine.rows(runId, 0, 0)).approximate);
    },

    rows(runId: string, offset: number, size: number): Promise<Reply<JsonText>> {
      return reply(() => JSON.stringify(valueOf(room.engine.rows(runId, offset, size))));
    },

    /** A piece of all rows of a run, as text of a format; the header of a CSV comes with the first. */
    rowsPiece(
      runId: string,
      offset: number,
      size: number,
      { format, guardsFormulas }: ExportHow,
    ): Promise<Reply<{ text: string; done: boolean }>> {
      return reply(async () => {
        const { documents, hasMore } = valueOf(room.engine.rows(runId, offset, size));
        if (format === 'ndjson') return { text: documents.map((row) => JSON.stringify(row) + '\n').join(''), done: !hasMore };
        if (format === 'json') {
          const opening = offset === 0 ? '[\n' : documents.length > 0 ? ',\n' : '';
          return { text: opening + documents.map((row) => JSON.stringify(row)).join(',\n') + (hasMore ? '' : '\n]\n'), done: !hasMore };
        }
        const columns = await columnsOf(runId, guardsFormulas);
        return { text: (offset === 0 ? columns.header : '') + documents.map((row) => columns.row(row)).join(''), done: !hasMore };
      });
    },
  };
}
