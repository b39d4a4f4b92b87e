/** What the browser keeps for the next time. One that keeps nothing, as some do in private windows, still works: only a reload forgets. */

export function keptText(place: string): string | null {
  try {
    return localStorage.getItem(place);
  } catch {
    return null;
  }
}

export function keepText(place: string, text: string): void {
  try {
    localStorage.setItem(place, text);
  } catch {
    // As above; or there is no room left.
  }
}

/** What was kept as JSON; undefined where that is nothing, or was cut off. Who reads it sees to it that it is what it should be: another version may have kept it. */
export function keptJson(place: string): unknown {
  try {
    return JSON.parse(keptText(place) ?? 'null') ?? undefined;
  } catch {
    return undefined;
  }
}
