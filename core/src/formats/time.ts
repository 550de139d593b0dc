/* eslint no-restricted-globals: off -- it reads times that are written down, never the clock */

/** A time in a file as ISO 8601 in UTC, or empty. One without a zone is taken as UTC: neither OOXML nor ODF says whose it is. */
export function timeOf(written: string | undefined): string {
  if (!written) return '';
  const time = Date.parse(/Z|[+-]\d\d:?\d\d$/.test(written) ? written : `${written}Z`);
  return Number.isNaN(time) ? '' : new Date(time).toISOString();
}
