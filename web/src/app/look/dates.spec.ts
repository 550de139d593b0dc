import { TestBed } from '@angular/core/testing';
import { DateAdapter } from '@angular/material/core';
import type { LocalDates } from './dates';
import { provideDates } from './dates';

describe('dates that are typed', () => {
  let dates: LocalDates;
  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideDates()] });
    dates = TestBed.inject(DateAdapter) as LocalDates;
  });
  const told = (value: string): string => {
    const date = dates.parse(value);
    return date && dates.isValid(date) ? dates.toIso8601(date) : 'none';
  };

  // CLDR: en-GB writes day, month, year; en-US month, day, year; hu-HU year, month, day. From memory.
  it('are read in the order in which the locale writes them, as they are shown', () => {
    for (const [locale, typed] of [
      ['en-GB', '14/4/2027'],
      ['en-US', '4/14/27'],
      ['hu-HU', '2027. 04. 14.'],
    ] as const) {
      dates.setLocale(locale);
      expect(told(typed)).toBe('2027-04-14');
      const shown = dates.format(new Date(2027, 3, 14), {
        year: 'numeric',
        month: 'numeric',
        day: 'numeric',
      });
      expect(told(shown)).toBe('2027-04-14');
    }
  });

  it('are no date where a part is missing or there is no such day', () => {
    dates.setLocale('en-GB');
    expect(['31/2/2027', '14/2027', 'soon'].map(told)).toEqual(['none', 'none', 'none']);
    expect(dates.parse('')).toBeNull();
  });
});
