/** The library has no types of its own. */
declare module 'damerau-levenshtein' {
  /** `steps` is the Damerau–Levenshtein distance of two texts, in UTF-16 units. */
  export default function editDistance(
    a: string,
    b: string,
  ): { readonly steps: number; readonly relative: number; readonly similarity: number };
}
