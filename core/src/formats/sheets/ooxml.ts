import type { Namespaces } from '../packed/xml.js';

const SPREADSHEET = 'http://schemas.openxmlformats.org/spreadsheetml/2006/main';
const OFFICE = 'http://schemas.openxmlformats.org/officeDocument/2006/relationships';
const STRICT = 'http://purl.oclc.org/ooxml';

/** Namespaces that are written, and those that are read, transitional and strict (ISO/IEC 29500). */
export const WRITTEN = { x: SPREADSHEET, r: OFFICE } as const;
export const READ: Namespaces = {
  [SPREADSHEET]: 'x',
  [OFFICE]: 'r',
  [`${STRICT}/spreadsheetml/main`]: 'x',
  [`${STRICT}/officeDocument/relationships`]: 'r',
};

/** Number formats that are known by a number alone (ISO/IEC 29500-1, 18.8.30). */
export const KNOWN_FORMATS: Readonly<Record<number, string>> = {
  1: '0',
  2: '0.00',
  3: '#,##0',
  4: '#,##0.00',
  9: '0%',
  10: '0.00%',
  11: '0.00E+00',
  12: '# ?/?',
  13: '# ??/??',
  14: 'mm-dd-yy',
  15: 'd-mmm-yy',
  16: 'd-mmm',
  17: 'mmm-yy',
  18: 'h:mm AM/PM',
  19: 'h:mm:ss AM/PM',
  20: 'h:mm',
  21: 'h:mm:ss',
  22: 'm/d/yy h:mm',
  37: '#,##0 ;(#,##0)',
  38: '#,##0 ;[Red](#,##0)',
  39: '#,##0.00;(#,##0.00)',
  40: '#,##0.00;[Red](#,##0.00)',
  45: 'mm:ss',
  46: '[h]:mm:ss',
  47: 'mmss.0',
  48: '##0.0E+0',
  49: '@',
};
/** The first number that a file may give to a format of its own. */
export const OWN_FORMATS = 164;

/** Inks of cells as colours, red, green and blue. */
export const FILL_COLOURS: Readonly<Record<string, string>> = {
  sand: 'FFF3B0',
  reed: 'CFE8CF',
  sky: 'CFE4F5',
  rose: 'F6D5DD',
};

/** The ink nearest to a colour in which red, green and blue are told by six figures. */
export function inkOf(colour: string): string {
  const parts = (hex: string): number[] => [0, 2, 4].map((at) => Number.parseInt(hex.slice(at, at + 2), 16));
  const own = parts(colour);
  let [best, least] = ['', Infinity];
  for (const [ink, hex] of Object.entries(FILL_COLOURS)) {
    const far = parts(hex).reduce((sum, value, i) => sum + (value - (own[i] ?? 0)) ** 2, 0);
    if (far < least) [best, least] = [ink, far];
  }
  return best;
}

/** Widths are told in widths of the figure 0, of seven pixels, with five pixels round them (18.3.1.13). */
const [FIGURE, ROUND] = [7, 5];

export function widthInFigures(pixels: number): number {
  return Math.round(((pixels - ROUND) / FIGURE) * 256) / 256;
}

export function widthInPixels(figures: number): number {
  return Math.round(figures * FIGURE + ROUND);
}
