/** FNV-1a with the finish of MurmurHash3, which spreads what differs in the last character over all bits. 32 bits. */
export function hashOfText(text: string): number {
  let hash = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193);
  return finished(hash);
}

/** Of a number: a whole one is mixed as it is, since writing it down would take ten times as long. 32 bits. */
export function hashOfNumber(value: number): number {
  if (!Number.isSafeInteger(value)) return hashOfText(`#${value}`);
  // The halves are mixed one after the other: what is below zero has the same bits as what is above, one by one.
  return finished(finished(value | 0) + Math.floor(value / 0x1_0000_0000));
}

function finished(given: number): number {
  let hash = Math.imul(given ^ (given >>> 16), 0x85ebca6b);
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35);
  return (hash ^ (hash >>> 16)) >>> 0;
}
