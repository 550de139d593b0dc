import { PAGES_FIELD, PAGE_FIELD, USUAL_PAPER, sheetOf } from '../../kinds/text/index.js';
import type { ImagePlace, Paper } from '../../kinds/text/index.js';
import { isUsual, lies, margin, runningLine } from '../laid-out.js';
import type { Element } from '../packed/xml.js';
import { down, el, elementsOf, ownText } from '../packed/xml.js';
import type { LeftOutTally } from '../reading.js';
import { IMAGE_STYLES, STYLES } from './names.js';
import { millimetres } from './sheet.js';

const SIDES = ['top', 'right', 'bottom', 'left'] as const;
const LAYOUT = 'Page';

/** The layout of the page (ODF 1.2 Part 1, 16.5, 17.2): its size, its margins, and room for what runs along it. */
export function pageLayout(paper: Paper): Element {
  const { width, height } = sheetOf(paper);
  const room = (kind: 'header' | 'footer'): Element | null =>
    paper[kind] === ''
      ? null
      : el(`style:${kind}-style`, {}, [el('style:header-footer-properties', { 'fo:min-height': '6mm' })]);
  return el('style:page-layout', { 'style:name': LAYOUT }, [
    el('style:page-layout-properties', {
      'fo:page-width': `${width}mm`,
      'fo:page-height': `${height}mm`,
      'style:print-orientation': paper.landscape ? 'landscape' : 'portrait',
      ...Object.fromEntries(SIDES.map((side) => [`fo:margin-${side}`, `${paper[side]}mm`])),
    }),
    room('header'),
    room('footer'),
  ]);
}

/** The one kind of page there is (16.9), with its header and footer. */
export function masterPage(paper: Paper): Element {
  const running = (kind: 'header' | 'footer'): Element | null =>
    paper[kind] === ''
      ? null
      : el(`style:${kind}`, {}, [
          el('text:p', { 'text:style-name': STYLES[kind] }, runningContent(paper[kind])),
        ]);
  return el('style:master-page', { 'style:name': 'Standard', 'style:page-layout-name': LAYOUT }, [
    running('header'),
    running('footer'),
  ]);
}

function runningContent(text: string): (Element | string)[] {
  return text
    .split(/(\t|\{pages?\})/)
    .filter((piece) => piece !== '')
    .map((piece) => {
      if (piece === '\t') return el('text:tab');
      if (piece === PAGE_FIELD) return el('text:page-number', { 'text:select-page': 'current' }, ['1']);
      return piece === PAGES_FIELD ? el('text:page-count', {}, ['1']) : piece;
    });
}

/** Styles of headers and footers, with stops in the middle and at the end of the line. */
export function runningStyles(paper: Paper): Element[] {
  const wide = sheetOf(paper).width - paper.left - paper.right;
  const stop = (type: string, at: number): Element =>
    el('style:tab-stop', { 'style:type': type, 'style:position': `${at}mm` });
  return [STYLES.header, STYLES.footer].map((name) =>
    el(
      'style:style',
      { 'style:name': name, 'style:family': 'paragraph', 'style:parent-style-name': 'Standard' },
      [
        el('style:paragraph-properties', {}, [
          el('style:tab-stops', {}, [stop('center', wide / 2), stop('right', wide)]),
        ]),
        el('style:text-properties', { 'fo:font-size': '10pt' }),
      ],
    ),
  );
}

/** Styles of images by where they stand (20.300, 20.390). */
export function imageStyles(): Element[] {
  const looks = {
    start: { 'style:wrap': 'parallel', 'style:horizontal-pos': 'left' },
    end: { 'style:wrap': 'parallel', 'style:horizontal-pos': 'right' },
    wide: { 'style:wrap': 'none', 'style:horizontal-pos': 'center' },
  };
  return Object.entries(IMAGE_STYLES).map(([place, name]) =>
    el('style:style', { 'style:name': name, 'style:family': 'graphic' }, [
      el('style:graphic-properties', {
        ...looks[place as keyof typeof IMAGE_STYLES],
        'style:horizontal-rel': 'paragraph',
        'style:vertical-pos': 'from-top',
        'style:vertical-rel': 'paragraph',
      }),
    ]),
  );
}

/** Where an image stands, by how it is anchored and by properties of its style. */
export function placeOf(anchor: string | undefined, property: (name: string) => string | null): ImagePlace {
  if (anchor === 'as-char') return 'line';
  const wrap = property('style:wrap');
  if (wrap === 'none') return 'wide';
  if (wrap === null || wrap === 'run-through') return 'line';
  return /right|outside/.test(property('style:horizontal-pos') ?? '') ? 'end' : 'start';
}

/** The paper of a file by its first kind of page; null where it is the usual one. */
export function paperIn(styles: Element | null, tally: LeftOutTally): Paper | null {
  const pages = elementsOf(down(styles, 'office:master-styles'), 'style:master-page');
  const page = pages.find(({ attributes }) => attributes['style:name'] === 'Standard') ?? pages[0];
  if (!page) return null;
  const layouts = elementsOf(down(styles, 'office:automatic-styles'), 'style:page-layout');
  const named = page.attributes['style:page-layout-name'];
  const layout = layouts.find(({ attributes }) => attributes['style:name'] === named);
  const own = down(layout, 'style:page-layout-properties')?.attributes ?? {};
  const of = (side: (typeof SIDES)[number]): number =>
    margin(millimetres(own[`fo:margin-${side}`] ?? own['fo:margin']), side);
  const [width, height] = [millimetres(own['fo:page-width']), millimetres(own['fo:page-height'])];
  for (const other of pages)
    for (const line of elementsOf(other))
      if (/^style:(header|footer)/.test(line.name) && isOther(line, other === page) && lineOf(line).trim())
        tally.add('headers and footers of first or even pages');
  const paper: Paper = {
    ...USUAL_PAPER,
    ...(width > 0 && height > 0 ? lies(width, height, tally) : {}),
    top: of('top'),
    right: of('right'),
    bottom: of('bottom'),
    left: of('left'),
    header: runningLine(lineOf(down(page, 'style:header'))),
    footer: runningLine(lineOf(down(page, 'style:footer'))),
  };
  return isUsual(paper) ? null : paper;
}

/** Whether a header or footer is one that not every page of the usual kind has. */
function isOther({ name }: Element, usual: boolean): boolean {
  return !usual || (name !== 'style:header' && name !== 'style:footer');
}

/** The text of a header or footer, paragraphs one after another, page numbers as fields. */
function lineOf(element: Element | null): string {
  return elementsOf(element)
    .map(textOf)
    .filter((text) => text.trim() !== '')
    .join(' ');
}

function textOf(element: Element): string {
  if (element.name === 'text:page-number') return PAGE_FIELD;
  if (element.name === 'text:page-count') return PAGES_FIELD;
  if (element.name === 'text:tab') return '\t';
  if (element.name === 'text:s') return ' ';
  if (elementsOf(element).length === 0) return ownText(element);
  return element.children.map((child) => (child.type === 'text' ? child.value : textOf(child))).join('');
}
