/** Number formats that are offered, as ISO/IEC 29500-1, 18.8.31, writes them, with what each is called. */
export const FORMATS: readonly (readonly [code: string, name: string])[] = [
  ['', $localize`As it is typed`],
  ['0', $localize`Whole number, 1234`],
  ['0.00', $localize`Two decimals, 1234.50`],
  ['#,##0', $localize`Thousands, 1,234`],
  ['#,##0.00', $localize`Thousands and decimals, 1,234.50`],
  ['#,##0.00;[Red]-#,##0.00', $localize`Amount, negative in red`],
  ['0%', $localize`Per cent, 12 %`],
  ['0.0%', $localize`Per cent, 12.3 %`],
  ['yyyy-mm-dd', $localize`Day, 2026-03-14`],
  ['d mmm yyyy', $localize`Day, 14 Mar 2026`],
  ['yyyy-mm-dd hh:mm', $localize`Day and time`],
  ['hh:mm', $localize`Time, 09:30`],
  ['@', $localize`Text`],
];
