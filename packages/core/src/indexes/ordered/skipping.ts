import type { Block, Cursor } from './entryBlocks.ts';

/** A stretch of entries that is walked, `end` exclusive. */
export interface Stretch {
  readonly start: Cursor;
  readonly end: Cursor;
}

/** How many entries stand from one place up to another: whole blocks are counted, not looked into. */
export function entriesBetween(blocks: readonly Block[], { start, end }: Stretch): number {
  if (start.block > end.block || (start.block === end.block && start.offset >= end.offset)) return 0;
  if (start.block === end.block) return end.offset - start.offset;
  let count = blocks[start.block]!.positions.length - start.offset + end.offset;
  for (let block = start.block + 1; block < end.block; block++) count += blocks[block]!.positions.length;
  return count;
}

/** The place so many entries after another, or before it where the number is negative; within the entries there are. */
export function moved(blocks: readonly Block[], { block, offset }: Cursor, by: number): Cursor {
  let at = block;
  let left = offset + by;
  while (left < 0 && at > 0) left += blocks[--at]!.positions.length;
  while (at < blocks.length && left >= blocks[at]!.positions.length) left -= blocks[at++]!.positions.length;
  return { block: at, offset: Math.max(0, left) };
}

/**
 * What is left of a stretch once so many entries of a walk have been passed over, from where the entries begin that tie with the first one
 * that is left: how many of those have been passed over too is told.
 * @param ties whether the entries at two places tie
 */
export function afterSkipping(
  blocks: readonly Block[],
  stretch: Stretch,
  skip: number,
  backwards: boolean,
  ties: (a: Cursor, b: Cursor) => boolean,
): { readonly stretch: Stretch; readonly passed: number } {
  if (skip === 0) return { stretch, passed: 0 };
  const left = entriesBetween(blocks, stretch) - skip;
  if (left <= 0) return { stretch: { start: stretch.end, end: stretch.end }, passed: 0 };
  const edge = backwards ? moved(blocks, stretch.end, -skip) : moved(blocks, stretch.start, skip);
  // The first that is left, and how far those that tie with it reach into what is passed over: strides double, then halve.
  const first = backwards ? moved(blocks, edge, -1) : edge;
  const at = (distance: number): Cursor => moved(blocks, edge, backwards ? distance - 1 : -distance);
  let tied = 0;
  let stride = 1;
  while (tied + stride <= skip && ties(first, at(tied + stride))) {
    tied += stride;
    stride *= 2;
  }
  for (; stride >= 1; stride >>= 1) if (tied + stride <= skip && ties(first, at(tied + stride))) tied += stride;
  const place = moved(blocks, edge, backwards ? tied : -tied);
  return { stretch: backwards ? { start: stretch.start, end: place } : { start: place, end: stretch.end }, passed: tied };
}
