/** How near a name is to what was typed: the same, begins with it, has a word that does, has it somewhere. */
function nearness(label: string, typed: string): number {
  if (label === typed) return 0;
  if (label.startsWith(typed)) return 1;
  return label.includes(` ${typed}`) ? 2 : 3;
}

/** What has all the words that were typed, in any order, in its name or kind: the nearest first, else in the order in which they stand. */
export function found<T extends { readonly label: string; readonly kind: string }>(places: readonly T[], typed: string): T[] {
  const wanted = typed.trim().toLowerCase();
  const words = wanted.split(/\s+/);
  return places
    .filter(({ label, kind }) => words.every((word) => `${label} ${kind}`.toLowerCase().includes(word)))
    .map((place) => ({ place, near: nearness(place.label.toLowerCase(), wanted) }))
    .sort((a, b) => a.near - b.near)
    .map(({ place }) => place);
}
