/** A date or date-time of RFC 3339 taken apart, with what is needed to write it in its own form again. */
interface Moment {
  /** Milliseconds since 1970 of the local fields, as if they were UTC. */
  readonly local: number;
  readonly offsetMinutes: number;
  readonly hasTime: boolean;
  readonly separator: string;
  readonly fraction: string;
  readonly zone: string;
}

const form = /^(\d{4})-(\d{2})-(\d{2})(?:([Tt ])(\d{2}):(\d{2}):(\d{2})(\.\d+)?([Zz]|[+-]\d{2}:\d{2})?)?$/;
const day = 86_400_000;
const fixed = { week: 7 * day, day, hour: 3_600_000, minute: 60_000, second: 1_000, millisecond: 1 };
const fixedUnits: Readonly<Record<string, number>> = fixed;

function read(text: unknown): Moment | undefined {
  const found = typeof text === 'string' ? form.exec(text) : null;
  if (found === null) return undefined;
  const [, year, month, date, separator, hour = '0', minute = '0', second = '0', fraction = '', zone = ''] = found;
  const numbers = [year, month, date, hour, minute, second].map(Number);
  const local =
    atFields(numbers[0]!, numbers[1]! - 1, numbers[2]!) +
    Number(hour) * fixed.hour +
    Number(minute) * fixed.minute +
    Number(second) * 1_000;
  const valid =
    numbers[1]! >= 1 && numbers[1]! <= 12 && numbers[2]! >= 1 && numbers[2]! <= daysIn(numbers[0]!, numbers[1]! - 1) &&
    numbers[3]! <= 23 && numbers[4]! <= 59 && numbers[5]! <= 60; // prettier-ignore
  if (!valid) return undefined;
  const sign = zone.startsWith('-') ? -1 : 1;
  const offsetMinutes = zone.length === 6 ? sign * (Number(zone.slice(1, 3)) * 60 + Number(zone.slice(4))) : 0;
  const milliseconds = Number((fraction.slice(1) + '000').slice(0, 3));
  return { local: local + milliseconds, offsetMinutes, hasTime: separator !== undefined, separator: separator ?? '', fraction, zone };
}

/** Milliseconds since 1970 of a date in UTC; `Date.UTC` alone takes the years 0 to 99 for 1900 to 1999. */
function atFields(year: number, month: number, date: number): number {
  return new Date(0).setUTCFullYear(year, month, date);
}

function daysIn(year: number, month: number): number {
  return new Date(atFields(year, month + 1, 0)).getUTCDate();
}

function write(moment: Moment, local: number): string | undefined {
  const at = new Date(local);
  if (Number.isNaN(at.getTime()) || at.getUTCFullYear() < 0 || at.getUTCFullYear() > 9999) return undefined;
  const iso = at.toISOString();
  if (!moment.hasTime) return iso.slice(0, 10);
  const digits = moment.fraction.length - 1;
  const below = local === moment.local ? moment.fraction.slice(4) : '';
  const fraction = digits > 0 ? '.' + (iso.slice(20, 23) + below).padEnd(digits, '0').slice(0, digits) : '';
  return iso.slice(0, 10) + moment.separator + iso.slice(11, 19) + fraction + moment.zone;
}

export function instant(date: unknown): number | undefined {
  const moment = read(date);
  return moment && moment.local - moment.offsetMinutes * fixed.minute;
}

export function dateTrunc(unit: unknown, date: unknown): string | undefined {
  const moment = read(date);
  if (moment === undefined || typeof unit !== 'string') return undefined;
  const at = new Date(moment.local);
  if (unit === 'year') return write(moment, atFields(at.getUTCFullYear(), 0, 1));
  if (unit === 'month') return write(moment, atFields(at.getUTCFullYear(), at.getUTCMonth(), 1));
  const step = fixedUnits[unit];
  if (step === undefined) return undefined;
  // 1970-01-01 was a Thursday; weeks begin on Monday.
  const shift = unit === 'week' ? 3 * day : 0;
  return write(moment, Math.floor((moment.local + shift) / step) * step - shift);
}

export function dateAdd(date: unknown, n: number, unit: unknown): string | undefined {
  const moment = read(date);
  if (moment === undefined || typeof unit !== 'string' || !Number.isInteger(n)) return undefined;
  if (unit === 'year' || unit === 'month') return write(moment, addMonths(moment.local, unit === 'year' ? n * 12 : n));
  const step = fixedUnits[unit];
  return step === undefined ? undefined : write(moment, moment.local + n * step);
}

function addMonths(local: number, months: number): number {
  const at = new Date(local);
  const whole = at.getUTCFullYear() * 12 + at.getUTCMonth() + months;
  const year = Math.floor(whole / 12);
  const month = whole - year * 12;
  const date = Math.min(at.getUTCDate(), daysIn(year, month));
  return atFields(year, month, date) + (local - atFields(at.getUTCFullYear(), at.getUTCMonth(), at.getUTCDate()));
}

export function dateDiff(unit: unknown, from: unknown, to: unknown): number | undefined {
  const a = read(from);
  const b = read(to);
  if (a === undefined || b === undefined || typeof unit !== 'string') return undefined;
  // Both in the first one's offset, so that months are counted on one calendar.
  const end = b.local + (a.offsetMinutes - b.offsetMinutes) * fixed.minute;
  if (unit === 'year' || unit === 'month') {
    const months = wholeMonths(a.local, end);
    return unit === 'month' ? months : Math.trunc(months / 12) + 0;
  }
  const step = fixedUnits[unit];
  return step === undefined ? undefined : Math.trunc((end - a.local) / step) + 0;
}

function wholeMonths(from: number, to: number): number {
  const a = new Date(from);
  const b = new Date(to);
  let months = (b.getUTCFullYear() - a.getUTCFullYear()) * 12 + b.getUTCMonth() - a.getUTCMonth();
  if (months > 0 && addMonths(from, months) > to) months--;
  if (months < 0 && addMonths(from, months) < to) months++;
  return months;
}

export function datePart(part: unknown, date: unknown): number | undefined {
  const moment = read(date);
  if (moment === undefined) return undefined;
  const at = new Date(moment.local);
  switch (part) {
    case 'year':
      return at.getUTCFullYear();
    case 'month':
      return at.getUTCMonth() + 1;
    case 'week':
      return isoWeek(moment.local);
    case 'day':
      return at.getUTCDate();
    case 'weekday':
      return weekday(moment.local);
    case 'hour':
      return at.getUTCHours();
    case 'minute':
      return at.getUTCMinutes();
    case 'second':
      return at.getUTCSeconds();
    case 'millisecond':
      return at.getUTCMilliseconds();
    default:
      return undefined;
  }
}

function weekday(local: number): number {
  return new Date(local).getUTCDay() || 7;
}

/** The week of ISO 8601: the first is the one with the year's first Thursday. */
function isoWeek(local: number): number {
  const thursday = local + (4 - weekday(local)) * day;
  const yearStart = atFields(new Date(thursday).getUTCFullYear(), 0, 1);
  return Math.floor((thursday - yearStart) / (7 * day)) + 1;
}
