/** The library has no types of its own: lists of stop words by ISO 639-3 codes. */
declare module 'stopword' {
  type List = readonly string[];
  const lists: Readonly<Record<'ara' | 'cat' | 'ces' | 'dan' | 'nld' | 'eng' | 'fin' | 'fra' | 'deu' | 'hun' | 'ita' | 'nob' | 'por' | 'ron' | 'rus' | 'spa' | 'swe' | 'tur', List>>; // prettier-ignore
  export const { ara, cat, ces, dan, nld, eng, fin, fra, deu, hun, ita, nob, por, ron, rus, spa, swe, tur }: typeof lists;
}
/** Snowball's algorithms (Porter 2001). */
declare module 'snowball-stemmers' {
  export function newStemmer(algorithm: string): { stem(word: string): string };
}
