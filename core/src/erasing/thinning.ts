/** How long versions are kept: all, the last so many, or all for so many days and then one of each sitting, day, week or month. */
export type ThinningRule =
  | { readonly keep: 'everything' }
  | { readonly keep: 'last'; readonly last: number }
  | {
      readonly keep: 'thinned';
      readonly days: number;
      readonly each: 'sitting' | 'day' | 'week' | 'month';
    };

/** A version as far as rules are concerned. */
export interface KeptVersion {
  readonly number: number;
  /** Milliseconds since the epoch. */
  readonly at: number;
  /** Whether it never goes: it has a name, is a major one, or something points to it. */
  readonly stays: boolean;
}

const DAY = 24 * 3600_000;
/** Idle time that parts two sittings, in milliseconds. */
const PAUSE = 10 * 60_000;

/** The numbers of the versions that go by a rule, of all versions in order. The first and the latest never do. */
export function goingBy(rule: ThinningRule, versions: readonly KeptVersion[], now: number): number[] {
  return versions
    .filter((version, i) => {
      if (version.stays || i === 0 || i === versions.length - 1 || rule.keep === 'everything') return false;
      if (rule.keep === 'last') return i < versions.length - rule.last;
      if (version.at > now - rule.days * DAY) return false;
      return isSame(rule.each, version, versions[i + 1] as KeptVersion);
    })
    .map(({ number }) => number);
}

/** Whether two versions, one after the other, are of one sitting, day, week (ISO 8601: from Monday) or month, in UTC. */
function isSame(each: 'sitting' | 'day' | 'week' | 'month', one: KeptVersion, next: KeptVersion): boolean {
  if (each === 'sitting') return next.at - one.at <= PAUSE;
  return spanOf(each, one.at) === spanOf(each, next.at);
}

function spanOf(each: 'day' | 'week' | 'month', at: number): number {
  const day = Math.floor(at / DAY);
  if (each === 'day') return day;
  // Day 0 was a Thursday.
  if (each === 'week') return Math.floor((day + 3) / 7);
  const [year, month] = monthOf(day);
  return year * 12 + month;
}

/**
 * Year and month of a day since 1970-01-01 in the proleptic Gregorian calendar. Source: E. G. Richards, "Calendars", in the
 * Explanatory Supplement to the Astronomical Almanac, 3rd edition, section 15.11, algorithm 4 (from memory).
 */
function monthOf(day: number): [number, number] {
  const julian = day + 2_440_588;
  const f = julian + 1401 + Math.floor((Math.floor((4 * julian + 274_277) / 146_097) * 3) / 4) - 38;
  const e = 4 * f + 3;
  const h = 5 * Math.floor((e % 1461) / 4) + 2;
  const month = (Math.floor(h / 153) + 2) % 12;
  return [Math.floor(e / 1461) - 4716 + Math.floor((12 + 1 - month) / 12), month];
}
