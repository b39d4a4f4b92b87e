/** Instants as they are told everywhere: in the time of whoever looks, the day before the month, the month as a word, 24 hours. */
const day = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium' });
const instant = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'short' });
const time = new Intl.DateTimeFormat('en-GB', { timeStyle: 'short' });
const second = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'medium' });

/** @param at as in the API (RFC 3339) */
export const dayText = (at: string): string => day.format(new Date(at));
export const instantText = (at: string): string => instant.format(new Date(at));
/** The time of a day alone, of what has just begun. */
export const timeText = (at: string): string => time.format(new Date(at));
/** To the second, where two are told apart by it. */
export const secondText = (at: string): string => second.format(new Date(at));
