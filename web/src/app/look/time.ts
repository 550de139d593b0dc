import { differenceInMinutes, format, formatDistanceStrict, isSameDay, isSameYear, subDays } from 'date-fns';

/** "Tue 14 Apr, 09:12"; with seconds where moments are close, with the year where it is not this one. */
export function dayAndTime(at: Date | number | string, now = new Date(), seconds = false): string {
  const date = new Date(at);
  return format(date, `EEE d MMM${isSameYear(date, now) ? '' : ' yyyy'}, HH:mm${seconds ? ':ss' : ''}`);
}

/** "10 minutes ago", "yesterday", "3 days ago". */
export function ago(at: Date | number | string, now = new Date()): string {
  const date = new Date(at);
  if (differenceInMinutes(now, date) < 1) return 'just now';
  if (isSameDay(date, subDays(now, 1))) return 'yesterday';
  return formatDistanceStrict(date, now, { addSuffix: true });
}

/** Both: "Tue 14 Apr, 09:12:07 (3 days ago)". */
export function fullTime(at: Date | number | string, now = new Date()): string {
  return `${dayAndTime(at, now, true)} (${ago(at, now)})`;
}

/** A short time beside a passage: "09:26" today, "Tue 09:26" this week, "14 Apr" before. */
export function shortTime(at: Date | number | string, now = new Date()): string {
  const date = new Date(at);
  if (isSameDay(date, now)) return format(date, 'HH:mm');
  if (date > subDays(now, 6)) return format(date, 'EEE HH:mm');
  return format(date, isSameYear(date, now) ? 'd MMM' : 'MMM yyyy');
}

/** The length of a gap: "16 h", "9 d", "3 wk". */
export function gapLength(milliseconds: number): string {
  const hours = milliseconds / 3_600_000;
  if (hours < 1) return `${Math.max(1, Math.round(hours * 60))} min`;
  if (hours < 36) return `${Math.round(hours)} h`;
  const days = hours / 24;
  return days < 14 ? `${Math.round(days)} d` : `${Math.round(days / 7)} wk`;
}
