/** Costs in units of reading and testing one document in a scan, measured by the bench on documents of the demo. */
export const costs = {
  /** One entry and its document in the order of the index, entry by entry. */
  orderedEntry: 5,
  /** The same where the least of several ranges comes each time. */
  mergedEntry: 6,
  /**
   * One entry whose row is made of its keys; the same in the order of the index. To make a row takes longer than to find a
   * document that is in memory anyway: of a whole collection it does not pay.
   */
  keysAlone: 6,
  orderedKeysAlone: 8,
  /** One entry's position, collected and sorted; put together with those of other indexes where there are several. */
  position: 1.2,
  /** One document found by its position. */
  fetched: 1.8,
  /** One row of a full sort, for each time that the number of rows doubles. */
  sortedRow: 0.6,
  /** One row that is held until one comes that does not tie with it. */
  partialRow: 1.5,
  /** One row that is held against the least of the N best. */
  topNRow: 1.5,
  /** One row that is joined or taken apart, and then held against the first in order. */
  passedRow: 4,
  /** Finding the next different value of an index. */
  lookup: 6,
  /** Beginning to use an index at all. */
  start: 2,
};
