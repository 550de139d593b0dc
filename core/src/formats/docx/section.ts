import { PAGES_FIELD, PAGE_FIELD, USUAL_PAPER, sheetOf } from '../../kinds/text/index.js';
import type { Paper as Sheet } from '../../kinds/text/index.js';
import type { Element } from '../packed/xml.js';
import { down, el, elementsOf, ownText, within } from '../packed/xml.js';
import { isUsual, lies, margin, runningLine } from '../laid-out.js';
import type { LeftOutTally } from '../reading.js';
import type { Hand } from '../writing.js';
import { STYLES, TWIPS_PER_MM, WRITTEN } from './names.js';
import type { Paper } from './paper.js';
import { trackAttributes } from './runs.js';
import { isOn, valueOf } from './sheet.js';

const SIDES = ['top', 'right', 'bottom', 'left'] as const;
/** How far headers and footers stand from the edge of the paper, in twentieths of a point. */
const RUNNING_AT = 708;

const twips = (mm: number): number => Math.round(mm * TWIPS_PER_MM);
const millimetres = (written: string | null): number => Math.round(Number(written ?? NaN) / TWIPS_PER_MM);

/** The properties of the one section that is written (ECMA-376 Part 1, 17.6.17), and those it had where that is tracked (17.13.5.32). */
export function sectionOf(
  now: Sheet,
  before: { readonly sheet: Sheet; readonly by: Hand } | null,
  paper: Paper,
): Element {
  const running = (['header', 'footer'] as const)
    .filter((kind) => now[kind] !== '')
    .map((kind) =>
      el(`w:${kind}Reference`, { 'w:type': 'default', 'r:id': paper.part(kind, `${kind}1.xml`) }),
    );
  const change = before
    ? el('w:sectPrChange', trackAttributes(paper, before.by), [el('w:sectPr', {}, laidOut(before.sheet))])
    : null;
  return el('w:sectPr', {}, [...running, ...laidOut(now), change]);
}

function laidOut(sheet: Sheet): Element[] {
  const { width, height } = sheetOf(sheet);
  return [
    el('w:pgSz', {
      'w:w': twips(width),
      'w:h': twips(height),
      'w:orient': sheet.landscape ? 'landscape' : null,
    }),
    el('w:pgMar', {
      ...Object.fromEntries(SIDES.map((side) => [`w:${side}`, twips(sheet[side])])),
      'w:header': Math.min(RUNNING_AT, twips(sheet.top) / 2) | 0,
      'w:footer': Math.min(RUNNING_AT, twips(sheet.bottom) / 2) | 0,
      'w:gutter': 0,
    }),
  ];
}

/** The part of a header or footer (17.10): one line, its parts at the start, in the middle and at the end. */
export function runningPart(kind: 'header' | 'footer', sheet: Sheet): Element {
  const wide = twips(sheetOf(sheet).width - sheet.left - sheet.right);
  const stop = (at: string, position: number): Element => el('w:tab', { 'w:val': at, 'w:pos': position });
  const text = (value: string): Element =>
    el('w:r', {}, value === '\t' ? [el('w:tab')] : [el('w:t', { 'xml:space': 'preserve' }, [value])]);
  const field = (code: string): Element =>
    el('w:fldSimple', { 'w:instr': ` ${code} ` }, [el('w:r', {}, [el('w:t', {}, ['1'])])]);
  const pieces = sheet[kind].split(/(\t|\{pages?\})/).filter((piece) => piece !== '');
  return el(kind === 'header' ? 'w:hdr' : 'w:ftr', { 'xmlns:w': WRITTEN.w, 'xmlns:r': WRITTEN.r }, [
    el('w:p', {}, [
      el('w:pPr', {}, [
        el('w:pStyle', { 'w:val': STYLES[kind].id }),
        el('w:tabs', {}, [stop('center', Math.round(wide / 2)), stop('right', wide)]),
      ]),
      ...pieces.map((piece) =>
        piece === PAGE_FIELD ? field('PAGE') : piece === PAGES_FIELD ? field('NUMPAGES') : text(piece),
      ),
    ]),
  ]);
}

/** The paper of a file by the properties of its last section; null where it is the usual one. */
export function sheetIn(
  section: Element | null,
  part: (id: string) => Element | null,
  tally: LeftOutTally,
): Sheet | null {
  if (!section) return null;
  const size = down(section, 'w:pgSz');
  const margins = down(section, 'w:pgMar');
  const of = (side: (typeof SIDES)[number]): number =>
    margin(millimetres(valueOf(margins, `w:${side}`)), side);
  const sheet: Sheet = {
    ...USUAL_PAPER,
    ...(size ? lies(millimetres(valueOf(size, 'w:w')), millimetres(valueOf(size, 'w:h')), tally) : {}),
    top: of('top'),
    right: of('right'),
    bottom: of('bottom'),
    left: of('left'),
    header: runningIn(section, 'header', part, tally),
    footer: runningIn(section, 'footer', part, tally),
  };
  return isUsual(sheet) ? null : sheet;
}

function runningIn(
  section: Element,
  kind: 'header' | 'footer',
  part: (id: string) => Element | null,
  tally: LeftOutTally,
): string {
  const references = elementsOf(section, `w:${kind}Reference`);
  const usual = references.find((one) => (valueOf(one, 'w:type') ?? 'default') === 'default');
  for (const one of references) {
    const other = one !== usual && lineOf(part(valueOf(one, 'r:id') ?? '')).trim() !== '';
    if (other) tally.add('headers and footers of first or even pages');
  }
  const element = part(valueOf(usual ?? null, 'r:id') ?? '');
  if (!element) return '';
  if (within(element, 'w:tbl') || within(element, 'w:drawing') || within(element, 'w:pict'))
    tally.add('tables and pictures in headers and footers');
  return runningLine(lineOf(element));
}

/** The text of a header or footer, paragraphs one after another, page numbers as fields. */
function lineOf(part: Element | null): string {
  const paragraphs = elementsOf(part, 'w:p').map((paragraph) => {
    const align = valueOf(down(paragraph, 'w:pPr', 'w:jc'));
    const text = new FieldLine().read(paragraph);
    if (text.trim() === '' || text.includes('\t')) return text;
    return align === 'center' ? `\t${text}` : align === 'right' || align === 'end' ? `\t\t${text}` : text;
  });
  return paragraphs.filter((text) => text.trim() !== '').join(' ');
}

/** Reads a line with fields, of which it keeps those of page numbers as such and the last text of others. */
class FieldLine {
  private code: string | null = null;
  private shows = true;

  read(parent: Element): string {
    return elementsOf(parent)
      .map((element) => this.element(element))
      .join('');
  }

  private element(element: Element): string {
    switch (element.name) {
      case 'w:t':
        return this.shows ? ownText(element) : '';
      case 'w:tab':
        return parentless(element) || !this.shows ? '' : '\t';
      case 'w:ptab':
        return '\t';
      case 'w:instrText':
        if (this.code !== null) this.code += ownText(element);
        return '';
      case 'w:fldChar':
        return this.edge(element);
      case 'w:fldSimple':
        return fieldOf(valueOf(element, 'w:instr') ?? '') ?? this.read(element);
      case 'w:del':
      case 'w:pPr':
      case 'w:rPr':
        return '';
      case 'w:r':
        return isOn(down(element, 'w:rPr', 'w:vanish')) ? '' : this.read(element);
      default:
        return this.read(element);
    }
  }

  private edge(element: Element): string {
    const type = valueOf(element, 'w:fldCharType');
    if (type === 'begin') this.code = '';
    if (type === 'separate' && fieldOf(this.code ?? '')) this.shows = false;
    if (type !== 'end') return '';
    const field = fieldOf(this.code ?? '') ?? '';
    this.code = null;
    this.shows = true;
    return field;
  }
}

/** A tab stop, which has a position, is no tab. */
function parentless(element: Element): boolean {
  return element.attributes['w:pos'] !== undefined;
}

function fieldOf(code: string): string | null {
  const [, name] = /^\s*(PAGE|NUMPAGES|SECTIONPAGES)\b/i.exec(code) ?? [];
  return name ? (name.toUpperCase() === 'PAGE' ? PAGE_FIELD : PAGES_FIELD) : null;
}
