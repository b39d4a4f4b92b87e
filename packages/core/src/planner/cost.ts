/**
 * Costs in units of reading and testing one document in a scan, on documents of the demo: `npm run bench -- --costs` measures them,
 * and tells which of them do not fit any more.
 */
export const costs = {
  /** One entry and its document in the order of the index, entry by entry. */
  orderedEntry: 8,
  /** The same where the least of several ranges comes each time. */
  mergedEntry: 16,
  /**
   * One entry whose row is made of its keys; the same in the order of the index. To make a row takes longer than to find a
   * document that is in memory anyway: of a whole collection it does not pay.
   */
  keysAlone: 7,
  orderedKeysAlone: 12,
  /** One entry's position, collected and sorted; put together with those of other indexes where there are several. */
  position: 1.2,
  /** One document found by its position. */
  fetched: 1.8,
  /** One row of a full sort, for each time that the number of rows doubles. */
  sortedRow: 0.9,
  /** One row that is held until one comes that does not tie with it. */
  partialRow: 1.5,
  /** One row that is held against the least of the N best. */
  topNRow: 4,
  /** One entry of an index that a score is made of. */
  scoredEntry: 0.5,
  /** One row whose words are counted, or whose score is worked out. */
  scoredRow: 60,
  /** One row that is tested by a step of its own. */
  filteredRow: 1.5,
  /** One row that is made anew: of chosen fields, with computed ones, of an element. */
  madeRow: 12,
  /** One partner that is put where it is found by its key; one row that looks there; one row that is made of the two. */
  builtPartner: 6,
  probedRow: 2,
  joinedRow: 26,
  /** One pair of a row and a partner that is tested, where no key finds one by the other. */
  testedPair: 0.3,
  /** One row that goes into its group; one group that comes out. */
  groupedRow: 2,
  madeGroup: 16,
  /** One row that is taken out of all at random. */
  sampledRow: 1.7,
  /** Finding one value in an index: the next different one, or the partners of a row. */
  lookup: 15,
  /** Beginning to use an index at all. */
  start: 2,
};

/** What it costs to sort so many rows, or to keep the first of them alone. */
export function sortCost(rows: number, demand: number | undefined): number {
  if (rows <= 1) return 0;
  if (demand !== undefined && demand < rows / 4) return rows * costs.topNRow;
  return rows * costs.sortedRow * Math.log2(rows);
}
