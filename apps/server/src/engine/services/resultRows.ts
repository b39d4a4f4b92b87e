import { LeafColumns } from '../../formats/csvOut.ts';
import { reply, type Reply } from '../../problem.ts';
import { valueOf, type JsonText } from '../answers.ts';
import type { EngineRoom } from '../engineRoom.ts';

/** The rows of runs that are kept, page by page. */
export function resultRows(room: EngineRoom) {
  let lastColumns: { runId: string; columns: LeafColumns } | undefined;
  const columnsOf = (runId: string): LeafColumns => {
    if (lastColumns?.runId === runId) return lastColumns.columns;
    const columns = new LeafColumns();
    for (let offset = 0, more = true; more; offset += 5_000) {
      const { documents, hasMore } = valueOf(room.engine.rows(runId, offset, 5_000));
      for (const row of documents) columns.add(row);
      more = hasMore;
    }
    lastColumns = { runId, columns };
    return columns;
  };

  return {
    rows(runId: string, offset: number, size: number): Promise<Reply<JsonText>> {
      return reply(() => JSON.stringify(valueOf(room.engine.rows(runId, offset, size))));
    },

    /** A piece of all rows of a run, as text of a format; the header of a CSV comes with the first. */
    rowsPiece(
      runId: string,
      offset: number,
      size: number,
      format: 'ndjson' | 'json' | 'csv',
    ): Promise<Reply<{ text: string; done: boolean }>> {
      return reply(() => {
        const { documents, hasMore } = valueOf(room.engine.rows(runId, offset, size));
        if (format === 'ndjson') return { text: documents.map((row) => JSON.stringify(row) + '\n').join(''), done: !hasMore };
        if (format === 'json') {
          const opening = offset === 0 ? '[\n' : documents.length > 0 ? ',\n' : '';
          return { text: opening + documents.map((row) => JSON.stringify(row)).join(',\n') + (hasMore ? '' : '\n]\n'), done: !hasMore };
        }
        const columns = columnsOf(runId);
        return { text: (offset === 0 ? columns.header : '') + documents.map((row) => columns.row(row)).join(''), done: !hasMore };
      });
    },
  };
}
