import type { Attrs, Node, NodeSpec } from 'prosemirror-model';
import type { Traits } from '../../content/index.js';
import { check, oneOf, wholeNumber } from '../attributes.js';
import type { Element } from '../attributes.js';

/** Sizes of paper upright, in millimetres. Sources: ISO 216 for A3 to A5, ANSI/ASME Y14.1 for letter; legal is common practice. */
export const PAPERS = {
  A3: [297, 420],
  A4: [210, 297],
  A5: [148, 210],
  letter: [216, 279],
  legal: [216, 356],
} as const;
export type PaperSize = keyof typeof PAPERS;

/** Widest margin, in millimetres. */
export const WIDEST_MARGIN = 100;
/** Most letters of a header or footer. */
export const LONGEST_RUNNING = 300;

/** The paper a document is laid out on, and what stands on each page of it. */
export interface Paper {
  readonly size: PaperSize;
  readonly landscape: boolean;
  /** Margins in millimetres. */
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
  readonly left: number;
  /** What stands at the head and the foot of each page: up to three parts with tabs between, at the start, in the middle and at the end. */
  readonly header: string;
  readonly footer: string;
}

/** The paper of a document that says nothing about it. */
export const USUAL_PAPER: Paper = {
  size: 'A4',
  landscape: false,
  top: 25,
  right: 25,
  bottom: 25,
  left: 25,
  header: '',
  footer: '',
};

/** What stands in a header or footer for the number of the page, and of all pages. */
export const PAGE_FIELD = '{page}';
export const PAGES_FIELD = '{pages}';

const running = check(
  '',
  `at most three parts with tabs between, of ${LONGEST_RUNNING} letters in all`,
  (value) =>
    typeof value === 'string' &&
    value.length <= LONGEST_RUNNING &&
    !/[\n\r]/.test(value) &&
    value.split('\t').length <= 3,
);
const margin = (usual: number) => wholeNumber(usual, 0, WIDEST_MARGIN);

/** How the document is laid out on paper; the first one in a document counts, whoever put it there. */
export const pageSetup: NodeSpec & Traits = {
  group: 'block',
  formed: true,
  erased: { header: '', footer: '' },
  attrs: {
    size: oneOf(Object.keys(PAPERS), USUAL_PAPER.size),
    landscape: check(false, 'true or false', (value) => typeof value === 'boolean'),
    top: margin(USUAL_PAPER.top),
    right: margin(USUAL_PAPER.right),
    bottom: margin(USUAL_PAPER.bottom),
    left: margin(USUAL_PAPER.left),
    header: running,
    footer: running,
  },
  parseDOM: [
    { tag: 'div[data-paper]', getAttrs: (dom: Element) => readPaper(dom.getAttribute('data-paper')) },
  ],
  toDOM: (node) => ['div', { 'data-paper': JSON.stringify(node.attrs) }],
};

/** The paper that a page of HTML tells of, as JSON; false where it tells none that can be. */
export function readPaper(written: unknown): Attrs | false {
  try {
    const told = JSON.parse(String(written)) as Record<string, unknown>;
    return Object.fromEntries(
      Object.entries(pageSetup.attrs ?? {}).flatMap(([name, { validate }]) => {
        if (typeof validate === 'function') validate(told[name]);
        return [[name, told[name]]];
      }),
    );
  } catch {
    return false;
  }
}

/** The paper of a document. */
export function paperOf(doc: Node): Paper {
  const found = doc.children.find(({ type }) => type.name === 'page_setup');
  return found ? (found.attrs as Paper) : USUAL_PAPER;
}

/** Width and height of a paper as it lies, in millimetres. */
export function sheetOf({ size, landscape }: Paper): { readonly width: number; readonly height: number } {
  const [short, long] = PAPERS[size];
  return landscape ? { width: long, height: short } : { width: short, height: long };
}

/** A paper in words, such as `A4, margins 25 mm`. */
export function paperTold({ size, landscape, top, right, bottom, left, header, footer }: Paper): string {
  const margins = [top, right, bottom, left];
  const even = margins.every((one) => one === top);
  const parts = (text: string): string => text.split('\t').filter(Boolean).join(' · ');
  return [
    `${size}${landscape ? ', landscape' : ''}`,
    even ? `margins ${top} mm` : `margins ${margins.join(', ')} mm`,
    ...(header ? [`header: ${parts(header)}`] : []),
    ...(footer ? [`footer: ${parts(footer)}`] : []),
  ].join('; ');
}
