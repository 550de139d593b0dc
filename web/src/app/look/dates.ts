import { Injectable } from '@angular/core';
import type { Provider } from '@angular/core';
import {
  DateAdapter,
  MAT_DATE_LOCALE,
  NativeDateAdapter,
  provideNativeDateAdapter,
} from '@angular/material/core';
import { MatDatepickerIntl } from '@angular/material/datepicker';
import { LOCALE } from './time';

/** Dates typed in the order in which the reader's locale writes them; Material's own adapter understands one order only. */
@Injectable()
export class LocalDates extends NativeDateAdapter {
  override parse(value: unknown): Date | null {
    if (typeof value !== 'string' || value.trim() === '') return super.parse(value);
    const numbers = (value.match(/\d+/g) ?? []).map(Number);
    const order = new Intl.DateTimeFormat(this.locale as string, { dateStyle: 'short' })
      .formatToParts(0)
      .flatMap(({ type }) => (type === 'day' || type === 'month' || type === 'year' ? [type] : []));
    const at = (part: string): number => numbers[order.findIndex((one) => one === part)] ?? NaN;
    const [year, month, day] = [at('year'), at('month'), at('day')];
    const date = new Date(year < 100 ? year + 2000 : year, month - 1, day);
    return numbers.length === 3 && date.getMonth() === month - 1 && date.getDate() === day
      ? date
      : this.invalid();
  }
}

/** Dates to pick as the reader's browser writes them, in a calendar that speaks as the rest of the page does. */
export function provideDates(): Provider[] {
  return [
    provideNativeDateAdapter(),
    { provide: MAT_DATE_LOCALE, useValue: LOCALE },
    { provide: DateAdapter, useClass: LocalDates },
    { provide: MatDatepickerIntl, useFactory: calendarWords },
  ];
}

function calendarWords(): MatDatepickerIntl {
  return Object.assign(new MatDatepickerIntl(), {
    calendarLabel: $localize`Calendar`,
    openCalendarLabel: $localize`Open the calendar`,
    closeCalendarLabel: $localize`Close the calendar`,
    prevMonthLabel: $localize`Previous month`,
    nextMonthLabel: $localize`Next month`,
    prevYearLabel: $localize`Previous year`,
    nextYearLabel: $localize`Next year`,
    prevMultiYearLabel: $localize`Previous 24 years`,
    nextMultiYearLabel: $localize`Next 24 years`,
    switchToMonthViewLabel: $localize`Pick a day`,
    switchToMultiYearViewLabel: $localize`Pick a month and a year`,
  });
}
