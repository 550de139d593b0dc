import type { Mark } from 'prosemirror-model';
import { canonicalText } from '../../content/index.js';
import { LONGEST_CAPTION, isSafeLink, textSchema as schema } from '../../kinds/text/index.js';
import type { ImagePlace } from '../../kinds/text/index.js';
import type { Element } from '../packed/xml.js';
import { down, elementsOf, ownText, within } from '../packed/xml.js';
import { PAGE_WIDTH, usualWidth } from '../looks.js';
import type { Picture } from '../picture.js';
import type { ReadPiece } from '../pieces.js';
import type { LeftOutTally } from '../reading.js';
import { marksOf } from './marks.js';
import { EMUS } from './names.js';
import { noteName } from './notes.js';
import type { DocxSheet } from './sheet.js';
import { isOn } from './sheet.js';

/** What reading the text of a file needs to know of the rest of it. */
export interface DocxSource {
  readonly sheet: DocxSheet;
  /** Target of a relationship of the main part. */
  readonly target: (id: string) => string | null;
  /** A footnote by the number its signs name it by. */
  readonly note: (id: string) => Element | null;
  /** The picture of a relationship, or null when it cannot be shown. */
  readonly picture: (id: string) => Picture | null;
}

/** Which text of a file with tracked changes is read: with them rejected, or accepted. */
export type Text = 'earlier' | 'later';

const GONE: Readonly<Record<Text, readonly string[]>> = {
  earlier: ['w:ins', 'w:moveTo'],
  later: ['w:del', 'w:moveFrom'],
};

/** Whether an element is one that stands in the other text only. */
export function isGone(element: Element, text: Text): boolean {
  return GONE[text].includes(element.name);
}

/** Properties as they are in a text: those before a tracked change of form where the earlier one is read. */
export function propertiesIn(text: Text, properties: Element | null, change: string): Element | null {
  const name = properties?.name ?? '';
  return text === 'earlier' && down(properties, change) ? down(properties, change, name) : properties;
}

interface Field {
  code: string;
  shows: boolean;
}

/** Reads the runs of paragraphs. Fields may begin in one paragraph and end in another, so one instance reads a whole part. */
export class DocxInlineReader {
  private readonly fields: Field[] = [];
  /** Footnotes whose signs were met, in that order, by name. */
  readonly met = new Map<string, Element>();

  constructor(
    private readonly source: DocxSource,
    private readonly text: Text,
    private readonly tally: LeftOutTally,
    private readonly hear: { comment(id: string, at: 'start' | 'end'): void; text(text: string): void },
  ) {}

  /** Whether a field that is left out, such as a table of contents, is being passed over. */
  get inLeftOut(): boolean {
    return this.fields.some(({ code }) => /^\s*TOC\b/.test(code));
  }

  pieces(parent: Element, style: string | null, link: Mark | null = null): ReadPiece[] {
    return elementsOf(parent).flatMap((element) => this.piece(element, style, link));
  }

  private piece(element: Element, style: string | null, link: Mark | null): ReadPiece[] {
    if (isGone(element, this.text)) return [];
    switch (element.name) {
      case 'w:r':
        return this.run(element, style, link);
      case 'w:hyperlink':
        return this.pieces(element, style, this.linkOf(element) ?? link);
      case 'w:fldSimple':
        return this.simpleField(element, style, link);
      case 'w:sdt':
        return this.control(element, style, link);
      case 'w:commentRangeStart':
        this.hear.comment(element.attributes['w:id'] ?? '', 'start');
        return [];
      case 'w:commentRangeEnd':
        this.hear.comment(element.attributes['w:id'] ?? '', 'end');
        return [];
      case 'm:oMath':
      case 'm:oMathPara':
        this.tally.add('formulas');
        return [];
      case 'w:ins':
      case 'w:del':
      case 'w:moveFrom':
      case 'w:moveTo':
      case 'w:smartTag':
      case 'w:customXml':
      case 'w:dir':
      case 'w:bdo':
        return this.pieces(element, style, link);
      default:
        return [];
    }
  }

  private linkOf(element: Element): Mark | null {
    const target = this.source.target(element.attributes['r:id'] ?? '') ?? '';
    const anchor = element.attributes['w:anchor'];
    return this.link(`${target}${anchor === undefined ? '' : `#${anchor}`}`, element.attributes['w:tooltip']);
  }

  private link(href: string, title: string | undefined): Mark | null {
    if (isSafeLink(href)) return schema.mark('link', { href, title: title ?? null });
    if (href) this.tally.add('links of a kind that is not allowed');
    return null;
  }

  private simpleField(element: Element, style: string | null, link: Mark | null): ReadPiece[] {
    const code = element.attributes['w:instr'] ?? '';
    return this.pieces(element, style, this.fieldLink(code) ?? link);
  }

  private fieldLink(code: string): Mark | null {
    const [, href] = /^\s*HYPERLINK\s+"([^"]+)"/.exec(code) ?? [];
    if (href) return this.link(href, undefined);
    const [, anchor] = /^\s*HYPERLINK\s+\\l\s+"([^"]+)"/.exec(code) ?? [];
    return anchor ? this.link(`#${anchor}`, undefined) : null;
  }

  /** A control in the line: a check box, or just what it holds. */
  private control(element: Element, style: string | null, link: Mark | null): ReadPiece[] {
    const content = this.pieces(down(element, 'w:sdtContent') ?? element, style, link);
    const box = down(element, 'w:sdtPr', 'w14:checkbox');
    if (!box || content.length === 0) return content;
    return [{ box: isOn(down(box, 'w14:checked'), 'w14:val') }];
  }

  private run(run: Element, style: string | null, outer: Mark | null): ReadPiece[] {
    const properties = propertiesIn(this.text, down(run, 'w:rPr'), 'w:rPrChange');
    if (isOn(down(properties, 'w:vanish'))) {
      this.tally.add('hidden text');
      return [];
    }
    const field = this.fields.map(({ code }) => this.fieldLink(code)).findLast((mark) => mark !== null);
    const marks = marksOf(properties, style, this.source.sheet, field ?? outer, this.tally);
    const out: ReadPiece[] = [];
    for (const element of elementsOf(run)) {
      if (this.field(element)) continue;
      if (this.fields.some(({ shows }) => !shows) || this.inLeftOut) continue;
      out.push(...this.content(element, marks));
    }
    return out;
  }

  /** Follows a field through its code to what it shows. */
  private field(element: Element): boolean {
    if (element.name === 'w:instrText' || element.name === 'w:delInstrText') {
      const field = this.fields.at(-1);
      if (field) field.code += ownText(element);
      return true;
    }
    if (element.name !== 'w:fldChar') return false;
    const type = element.attributes['w:fldCharType'];
    if (type === 'begin') this.fields.push({ code: '', shows: false });
    else if (type === 'separate' && this.fields.length > 0) (this.fields.at(-1) as Field).shows = true;
    else if (type === 'end') {
      const code = this.fields.pop()?.code.trim() ?? '';
      if (code && !code.startsWith('HYPERLINK'))
        this.tally.add(code.startsWith('TOC') ? 'tables of contents' : 'fields, kept as their last text');
    }
    return true;
  }

  private content(element: Element, marks: readonly Mark[]): ReadPiece[] {
    const text = (value: string): ReadPiece[] => {
      this.hear.text(value);
      return value ? [{ text: value, marks }] : [];
    };
    switch (element.name) {
      case 'w:t':
      case 'w:delText':
        return text(ownText(element));
      case 'w:tab':
      case 'w:ptab':
        return text('\t');
      case 'w:noBreakHyphen':
        return text('\u2011');
      case 'w:softHyphen':
        return text('\u00ad');
      case 'w:cr':
        return [{ node: schema.node('hard_break', null, undefined, marks) }];
      case 'w:br': {
        const type = element.attributes['w:type'] ?? 'textWrapping';
        if (type === 'page') return [{ parts: 'page_break' }];
        if (type === 'column') this.tally.add('column breaks');
        return [{ node: schema.node('hard_break', null, undefined, marks) }];
      }
      case 'w:sym':
        return this.symbol(element, text);
      case 'w:drawing':
        return this.drawing(element, marks);
      case 'w:pict':
      case 'w:object':
        return this.picture(element, marks);
      case 'mc:AlternateContent':
        return elementsOf(down(element, 'mc:Choice') ?? down(element, 'mc:Fallback')).flatMap((child) =>
          this.content(child, marks),
        );
      case 'w:footnoteReference':
        return this.sign(element, marks);
      case 'w:endnoteReference':
        this.tally.add('endnotes');
        return [];
      default:
        return [];
    }
  }

  /** The sign of a footnote, which is read when the text is. */
  private sign(element: Element, marks: readonly Mark[]): ReadPiece[] {
    const note = this.source.note(element.attributes['w:id'] ?? '');
    if (!note) return [];
    const name = noteName(note);
    this.met.set(name, note);
    const own = marks.filter((mark) => mark.type.name !== 'superscript');
    return [{ node: schema.node('footnote_mark', { note: name }, undefined, own) }];
  }

  /** A character of a picture font: kept where its code is one of Unicode, otherwise counted. */
  private symbol(element: Element, text: (value: string) => ReadPiece[]): ReadPiece[] {
    const code = Number.parseInt(element.attributes['w:char'] ?? '', 16);
    if (code >= 0x20 && code < 0xd800) return text(String.fromCharCode(code));
    this.tally.add('characters of a picture font');
    return [];
  }

  /** A DrawingML picture (ECMA-376 Part 1, 20.4.2.8). */
  private drawing(element: Element, marks: readonly Mark[]): ReadPiece[] {
    const blip = within(element, 'a:blip');
    if (!blip) {
      const graphic = within(element, 'a:graphicData')?.attributes['uri'] ?? '';
      this.tally.add(/chart|diagram/.test(graphic) ? 'charts and diagrams' : 'text boxes and drawn shapes');
      return [];
    }
    const about = within(element, 'wp:docPr');
    const wide = Math.round(Number(within(element, 'wp:extent')?.attributes['cx']) / EMUS);
    const anchor = down(element, 'wp:anchor');
    return this.image(
      blip.attributes['r:embed'],
      {
        alt: about?.attributes['descr'] ?? '',
        caption: about?.attributes['title'] ?? '',
        place: anchor ? placeIn(anchor) : 'line',
        wide,
      },
      marks,
    );
  }

  /** A VML picture, or a line across the page (ECMA-376 Part 4, 19.1.2.11 and 19.2.2.11). */
  private picture(element: Element, marks: readonly Mark[]): ReadPiece[] {
    const rule = elementsOf(element).some(
      (shape) => isOn(shape.attributes['o:hr'] ? shape : null) && shape.attributes['o:hr'] !== 'f',
    );
    if (rule) return [{ parts: 'rule' }];
    const data = within(element, 'v:imagedata');
    if (element.name === 'w:object')
      this.tally.add('embedded objects, kept as their picture where it can be shown');
    if (!data) {
      if (element.name === 'w:pict') this.tally.add('text boxes and drawn shapes');
      return [];
    }
    const alt = data.attributes['o:title'] ?? '';
    return this.image(data.attributes['r:id'], { alt, caption: '', place: 'line', wide: Number.NaN }, marks);
  }

  private image(id: string | undefined, shown: Shown, marks: readonly Mark[]): ReadPiece[] {
    const picture = this.source.picture(id ?? '');
    const told = (text: string): string => canonicalText(text, false).replace(/\p{Surrogate}/gu, '\ufffd');
    const says = told(shown.alt);
    if (!picture) {
      this.tally.add('pictures that cannot be shown (only PNG, JPEG, GIF and WebP can)');
      return says ? [{ text: `[${says}]`, marks }] : [];
    }
    const natural = usualWidth(picture);
    const width = shown.wide > 0 && shown.wide !== natural ? shown.wide : null;
    const caption = told(shown.caption).slice(0, LONGEST_CAPTION);
    const attrs = { hash: picture.hash, alt: says, width, place: shown.place, caption };
    return [{ node: schema.node('image', attrs, undefined, marks) }];
  }
}

/** How a file shows a picture; `wide` is in pixels. */
interface Shown {
  readonly alt: string;
  readonly caption: string;
  readonly place: ImagePlace;
  readonly wide: number;
}

/** Where a picture stands that is anchored to its paragraph (20.4.2.3, 20.4.2.15 to 20.4.2.20). */
function placeIn(anchor: Element): ImagePlace {
  if (down(anchor, 'wp:wrapTopAndBottom')) return 'wide';
  if (down(anchor, 'wp:wrapNone')) return 'line';
  const align = down(anchor, 'wp:positionH', 'wp:align');
  const offset = down(anchor, 'wp:positionH', 'wp:posOffset');
  if (align) return /right|outside/.test(ownText(align)) ? 'end' : 'start';
  return offset && Number(ownText(offset)) / EMUS > PAGE_WIDTH / 2 ? 'end' : 'start';
}
