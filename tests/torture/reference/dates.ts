/** Dates as RFC 3339 text: the days of the calendar counted by hand. */
export interface Moment {
  /** Days since 1970-01-01 and milliseconds of the day, by the date's own clock. */
  readonly day: number;
  readonly ms: number;
  readonly offset: number;
  readonly time: boolean;
  readonly separator: string;
  readonly fraction: string;
  readonly zone: string;
}

const isLeap = (year: number) => (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0;
export const daysOfMonth = (year: number, month: number) => [31, isLeap(year) ? 29 : 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31][month - 1];

export function dayOf(year: number, month: number, date: number): number {
  const before = year - 1;
  let days = before * 365 + Math.floor(before / 4) - Math.floor(before / 100) + Math.floor(before / 400) - 719162;
  for (let m = 1; m < month; m++) days += daysOfMonth(year, m);
  return days + date - 1;
}

export function dateOf(day: number): { year: number; month: number; date: number } {
  let year = 1970 + Math.floor(day / 366);
  while (dayOf(year + 1, 1, 1) <= day) year++;
  while (dayOf(year, 1, 1) > day) year--;
  let month = 1;
  while (month < 12 && dayOf(year, month + 1, 1) <= day) month++;
  return { year, month, date: day - dayOf(year, month, 1) + 1 };
}

export function readDate(text: unknown): Moment | undefined {
  if (typeof text !== 'string') return undefined;
  const found = /^(\d{4})-(\d{2})-(\d{2})(?:([Tt ])(\d{2}):(\d{2}):(\d{2})(\.\d+)?([Zz]|[+-]\d{2}:\d{2})?)?$/.exec(text);
  if (!found) return undefined;
  const [, y, mo, d, separator = '', h = '0', mi = '0', s = '0', fraction = '', zone = ''] = found;
  const [year, month, date, hour, minute, second] = [y, mo, d, h, mi, s].map(Number);
  if (month < 1 || month > 12 || date < 1 || date > daysOfMonth(year, month) || hour > 23 || minute > 59 || second > 60) return undefined;
  const offset = zone.length === 6 ? (zone[0] === '-' ? -1 : 1) * (Number(zone.slice(1, 3)) * 60 + Number(zone.slice(4))) : 0;
  const ms = ((hour * 60 + minute) * 60 + second) * 1000 + Number(fraction.slice(1, 4).padEnd(3, '0'));
  return {
    day: dayOf(year, month, date) + Math.floor(ms / dayMs),
    ms: ms % dayMs,
    offset,
    time: separator !== '',
    separator,
    fraction,
    zone,
  };
}

export const dayMs = 86_400_000;
export const localOf = ({ day, ms }: Moment): number => day * dayMs + ms;
const two = (n: number) => String(n).padStart(2, '0');

/** A date of the same form at another time; `exact` keeps digits below the millisecond. */
export function writeDate(moment: Moment, local: number): string | undefined {
  const day = Math.floor(local / dayMs);
  const ms = local - day * dayMs;
  if (!Number.isFinite(local) || Math.abs(local) > 8.64e15) return undefined;
  const { year, month, date } = dateOf(day);
  if (year < 0 || year > 9999) return undefined;
  const head = `${String(year).padStart(4, '0')}-${two(month)}-${two(date)}`;
  if (!moment.time) return head;
  const seconds = Math.floor(ms / 1000);
  const digits = moment.fraction.length - 1;
  const below = local === localOf(moment) ? moment.fraction.slice(4) : '';
  const fraction = digits > 0 ? '.' + (String(ms % 1000).padStart(3, '0') + below).padEnd(digits, '0').slice(0, digits) : '';
  return `${head}${moment.separator}${two(Math.floor(seconds / 3600))}:${two(Math.floor(seconds / 60) % 60)}:${two(seconds % 60)}${fraction}${moment.zone}`;
}

const steps: Record<string, number> = { week: 7 * dayMs, day: dayMs, hour: 3_600_000, minute: 60_000, second: 1000, millisecond: 1 };

export const instant = (text: unknown): number | undefined => {
  const moment = readDate(text);
  return moment && localOf(moment) - moment.offset * 60_000;
};

export function truncated(unit: unknown, text: unknown): string | undefined {
  const moment = readDate(text);
  if (moment === undefined || typeof unit !== 'string') return undefined;
  const { year, month } = dateOf(moment.day);
  if (unit === 'year') return writeDate(moment, dayOf(year, 1, 1) * dayMs);
  if (unit === 'month') return writeDate(moment, dayOf(year, month, 1) * dayMs);
  // 1970-01-01 was a Thursday, the fourth day of its week.
  if (unit === 'week') return writeDate(moment, (moment.day - weekdayOf(moment.day) + 1) * dayMs);
  const step = Object.hasOwn(steps, unit) ? steps[unit] : undefined;
  return step === undefined ? undefined : writeDate(moment, Math.floor(localOf(moment) / step) * step);
}

export const weekdayOf = (day: number): number => ((((day + 3) % 7) + 7) % 7) + 1;

function monthsLater(local: number, months: number): number {
  const day = Math.floor(local / dayMs);
  const { year, month, date } = dateOf(day);
  const count = year * 12 + month - 1 + months;
  const [y, m] = [Math.floor(count / 12), (((count % 12) + 12) % 12) + 1];
  return dayOf(y, m, Math.min(date, daysOfMonth(y, m))) * dayMs + local - day * dayMs;
}

export function added(text: unknown, n: unknown, unit: unknown): string | undefined {
  const moment = readDate(text);
  if (moment === undefined || typeof unit !== 'string' || !Number.isInteger(n)) return undefined;
  const count = n as number;
  if (Math.abs(count) > 1e7) return undefined;
  if (unit === 'year' || unit === 'month') return writeDate(moment, monthsLater(localOf(moment), unit === 'year' ? count * 12 : count));
  const step = Object.hasOwn(steps, unit) ? steps[unit] : undefined;
  return step === undefined ? undefined : writeDate(moment, localOf(moment) + count * step);
}

export function between(unit: unknown, from: unknown, to: unknown): number | undefined {
  const [a, b] = [readDate(from), readDate(to)];
  if (a === undefined || b === undefined || typeof unit !== 'string') return undefined;
  const start = localOf(a);
  const end = localOf(b) + (a.offset - b.offset) * 60_000;
  if (unit === 'year' || unit === 'month') {
    let months = 0;
    if (end >= start) while (monthsLater(start, months + 1) <= end) months++;
    else while (monthsLater(start, months - 1) >= end) months--;
    return unit === 'month' ? months : Math.trunc(months / 12) + 0;
  }
  const step = Object.hasOwn(steps, unit) ? steps[unit] : undefined;
  return step && Math.trunc((end - start) / step) + 0;
}

export function partOf(part: unknown, text: unknown): number | undefined {
  const moment = readDate(text);
  if (moment === undefined) return undefined;
  const { year, month, date } = dateOf(moment.day);
  const thursday = moment.day + 4 - weekdayOf(moment.day);
  const parts: Record<string, number> = {
    year, month, day: date, weekday: weekdayOf(moment.day),
    week: Math.floor((thursday - dayOf(dateOf(thursday).year, 1, 1)) / 7) + 1,
    hour: Math.floor(moment.ms / 3_600_000), minute: Math.floor(moment.ms / 60_000) % 60,
    second: Math.floor(moment.ms / 1000) % 60, millisecond: moment.ms % 1000,
  }; // prettier-ignore
  return typeof part === 'string' && Object.hasOwn(parts, part) ? parts[part] : undefined;
}
