import {
  differenceInMinutes,
  differenceInMonths,
  intlFormatDistance,
  isSameDay,
  isSameYear,
  subDays,
} from 'date-fns';

/** The language that the reader would rather read, as the browser says. */
export const LOCALE = navigator.language;

/** Formats of times in the reader's own locale, each made once: making one takes as long as using it a hundred times. */
const formats = new Map<string, Intl.DateTimeFormat>();

const DAY = { weekday: 'short', day: 'numeric', month: 'short' } as const;
const MINUTE = { hour: '2-digit', minute: '2-digit' } as const;
const SECOND = { ...MINUTE, second: '2-digit' } as const;

type Time = Date | number | string;

/** A time in the reader's locale, with the parts that are asked for. */
function timeIn(at: Time, parts: Intl.DateTimeFormatOptions): string {
  const name = JSON.stringify(parts);
  const format = formats.get(name) ?? new Intl.DateTimeFormat(LOCALE, parts);
  formats.set(name, format);
  return format.format(new Date(at));
}

/** "Tue 14 Apr, 09:12"; with seconds where moments are close, with the year where it is not this one. */
export function dayAndTime(at: Time, now = new Date(), seconds = false): string {
  const year = isSameYear(at, now) ? {} : ({ year: 'numeric' } as const);
  return timeIn(at, { ...DAY, ...year, ...(seconds ? SECOND : MINUTE) });
}

/** "10 minutes ago", "yesterday", "3 days ago". */
export function ago(at: Time, now = new Date()): string {
  const date = new Date(at);
  if (differenceInMinutes(now, date) < 1) return $localize`just now`;
  if (isSameDay(date, subDays(now, 1))) return intlFormatDistance(date, now, { unit: 'day', locale: LOCALE });
  const months = differenceInMonths(now, date);
  const unit = months >= 12 ? 'year' : months >= 1 ? 'month' : undefined;
  return intlFormatDistance(date, now, { numeric: 'always', locale: LOCALE, ...(unit && { unit }) });
}

/** Both: "Tue 14 Apr, 09:12:07 (3 days ago)". */
export function fullTime(at: Time, now = new Date()): string {
  return `${dayAndTime(at, now, true)} (${ago(at, now)})`;
}

/** A short time beside a passage: "09:26" today, "Tue 09:26" this week, "14 Apr" before. */
export function shortTime(at: Time, now = new Date()): string {
  const date = new Date(at);
  if (isSameDay(date, now)) return timeIn(date, MINUTE);
  if (date > subDays(now, 6)) return timeIn(date, { weekday: 'short', ...MINUTE });
  return isSameYear(date, now) ? dayOfYear(date) : monthAndYear(date);
}

/** "14 Apr". */
export function dayOfYear(at: Time): string {
  return timeIn(at, { day: 'numeric', month: 'short' });
}

/** "14 Apr, 09:12". */
export function dayAndMinute(at: Time): string {
  return timeIn(at, { day: 'numeric', month: 'short', ...MINUTE });
}

/** "Apr". */
export function monthOfYear(at: Time): string {
  return timeIn(at, { month: 'short' });
}

/** "Apr 2026". */
export function monthAndYear(at: Time): string {
  return timeIn(at, { month: 'short', year: 'numeric' });
}

/** "09:12:07". */
export function timeOfDay(at: Time): string {
  return timeIn(at, SECOND);
}

/** The length of a gap: "16h", "9d", "3w". */
export function gapLength(milliseconds: number): string {
  const hours = milliseconds / 3_600_000;
  if (hours < 1) return inUnit(Math.max(1, Math.round(hours * 60)), 'minute');
  if (hours < 36) return inUnit(Math.round(hours), 'hour');
  const days = hours / 24;
  return days < 14 ? inUnit(Math.round(days), 'day') : inUnit(Math.round(days / 7), 'week');
}

function inUnit(count: number, unit: string): string {
  return new Intl.NumberFormat(LOCALE, { style: 'unit', unit, unitDisplay: 'narrow' }).format(count);
}
