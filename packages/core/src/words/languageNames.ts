/** The languages in which words have stems and stop words. */
export const languageNames = [
  'arabic', 'catalan', 'czech', 'danish', 'dutch', 'english', 'finnish', 'french', 'german', 'hungarian', 'italian', 'norwegian',
  'portuguese', 'romanian', 'russian', 'spanish', 'swedish', 'turkish',
] as const; // prettier-ignore
export type LanguageName = (typeof languageNames)[number];

export const isLanguageName = (name: unknown): name is LanguageName => (languageNames as readonly unknown[]).includes(name);
