/**
 * The first `count` of a list in an order, ties as they came: a sorted array of those kept, into which others are put by bisection.
 * What comes after the last of a full one costs one comparison.
 */
export function atMost(count, list, compare) {
  const kept = [];
  for (const one of list) {
    if (kept.length === count && compare(kept[count - 1], one) <= 0) continue;
    let low = 0;
    let high = kept.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (compare(kept[middle], one) <= 0) low = middle + 1;
      else high = middle;
    }
    kept.splice(low, 0, one);
    if (kept.length > count) kept.pop();
  }
  return kept;
}
