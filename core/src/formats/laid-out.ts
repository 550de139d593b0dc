import { canonicalText } from '../content/index.js';
import { LONGEST_RUNNING, PAPERS, USUAL_PAPER, WIDEST_MARGIN } from '../kinds/text/index.js';
import type { Paper, PaperSize } from '../kinds/text/index.js';
import type { LeftOutTally } from './reading.js';

/** How far a file's paper may be from one of the known sizes, in millimetres. */
const CLOSE = 3;

/** The known size nearest to one in millimetres, and how it lies; that of a usual paper, counted, when none is near. */
export function lies(width: number, height: number, tally: LeftOutTally): Pick<Paper, 'size' | 'landscape'> {
  const near = (a: number, b: number): boolean => Math.abs(a - b) <= CLOSE;
  for (const [size, [short, long]] of Object.entries(PAPERS)) {
    if (near(width, short) && near(height, long)) return { size: size as PaperSize, landscape: false };
    if (near(width, long) && near(height, short)) return { size: size as PaperSize, landscape: true };
  }
  tally.add('sizes of paper that are none of the usual ones');
  return { size: USUAL_PAPER.size, landscape: width > height };
}

/** A margin that a file tells in millimetres, or the usual one where it tells none. */
export function margin(millimetres: number, side: 'top' | 'right' | 'bottom' | 'left'): number {
  if (Number.isNaN(millimetres)) return USUAL_PAPER[side];
  return Math.min(WIDEST_MARGIN, Math.abs(Math.round(millimetres)));
}

/** Whether a paper is that of a document that says nothing about it. */
export function isUsual(paper: Paper): boolean {
  return Object.entries(USUAL_PAPER).every(([name, value]) => paper[name as keyof Paper] === value);
}

/** A header or footer as documents hold it: three parts at most, with tabs between. */
export function runningLine(text: string): string {
  const [start = '', middle = '', ...rest] = text
    .split('\t')
    .map((one) => canonicalText(one, false).replace(/ +/g, ' ').trim());
  return `${start}\t${middle}\t${rest.join(' ').trim()}`.slice(0, LONGEST_RUNNING).replace(/\t+$/, '');
}
