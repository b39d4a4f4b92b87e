/** Forms that texts can have, by the standards' names where there are any. */
export const textFormats = {
  /** RFC 3339, full-date */
  date: /^\d{4}-(?:0[1-9]|1[0-2])-(?:0[1-9]|[12]\d|3[01])$/,
  /** RFC 3339 */
  'date-time': /^\d{4}-(?:0[1-9]|1[0-2])-(?:0[1-9]|[12]\d|3[01])[Tt ]\d{2}:\d{2}:\d{2}(?:\.\d+)?(?:[Zz]|[+-]\d{2}:\d{2})$/,
  /** RFC 4122 and 9562 */
  uuid: /^[0-9a-fA-F]{8}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{4}-[0-9a-fA-F]{12}$/,
  /** RFC 3986, with a scheme that is followed by an authority */
  uri: /^[A-Za-z][A-Za-z0-9+.-]*:\/\/\S+$/,
  /** RFC 5322, as it is commonly written */
  email: /^[^\s@"]+@[^\s@"]+\.[^\s@"]+$/,
  /** a number kept as text */
  number: /^-?(?:0|[1-9]\d*)(?:\.\d+)?(?:[eE][+-]?\d+)?$/,
} as const;
export type TextFormat = keyof typeof textFormats;
const entries = Object.entries(textFormats) as [TextFormat, RegExp][];

/** The form of a text; undefined where it has none of those known. */
export function formatOf(text: string): TextFormat | undefined {
  if (text.length > 300) return undefined;
  return entries.find(([, pattern]) => pattern.test(text))?.[0];
}
