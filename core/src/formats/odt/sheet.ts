import type { Mark } from 'prosemirror-model';
import { textSchema as schema } from '../../kinds/text/index.js';
import { FONTS, sizeOfRatio } from '../looks.js';
import type { Element } from '../packed/xml.js';
import { down, elementsOf } from '../packed/xml.js';
import type { LeftOutTally } from '../reading.js';
import { INK_COLOURS } from './names.js';

interface Style {
  /** The name shown to people, in small letters. */
  readonly shown: string;
  readonly parent: string | null;
  readonly element: Element;
  /** Whether it stands for formatting given by hand rather than for a style somebody chose. */
  readonly automatic: boolean;
}

/** What a paragraph is, by its style. */
export type StyleKind = 'paragraph' | 'quote' | 'code' | 'rule' | 'title' | 'subtitle';

const FORMS: readonly (readonly [RegExp, StyleKind])[] = [
  [/^(quotations?|quote|block ?(text|quote|quotation))$/, 'quote'],
  [/^(preformatted text|source code|code)$/, 'code'],
  [/^horizontal line$/, 'rule'],
  [/^title$/, 'title'],
  [/^subtitle$/, 'subtitle'],
];

const FACES = ['serif', 'sans', 'mono'] as const;

/** The styles of a file. */
export class OdtSheet {
  private readonly styles = new Map<string, Style>();
  private readonly lists = new Map<string, Element>();
  private readonly families = new Map<string, string>();
  private readonly usual: Element | null;

  constructor(parts: readonly (Element | null)[]) {
    let usual: Element | null = null;
    for (const part of parts) {
      for (const font of elementsOf(down(part, 'office:font-face-decls'), 'style:font-face'))
        this.families.set(
          font.attributes['style:name'] ?? '',
          font.attributes['style:font-family-generic'] ?? '',
        );
      for (const group of ['office:styles', 'office:automatic-styles']) {
        const held = down(part, group);
        for (const element of elementsOf(held)) {
          const name = element.attributes['style:name'] ?? '';
          const family = element.attributes['style:family'] ?? '';
          if (element.name === 'text:list-style') this.lists.set(name, element);
          if (element.name === 'style:default-style' && family === 'paragraph') usual = element;
          if (element.name === 'style:style')
            this.styles.set(`${family} ${name}`, {
              shown: (element.attributes['style:display-name'] ?? name).replace(/_20_/g, ' ').toLowerCase(),
              parent: element.attributes['style:parent-style-name'] ?? null,
              element,
              automatic: group === 'office:automatic-styles',
            });
        }
      }
    }
    this.usual = usual;
  }

  /** What a paragraph is, by its style or one that style is based on. */
  form(name: string | null): StyleKind {
    for (const { shown } of this.chain('paragraph', name)) {
      const found = FORMS.find(([pattern]) => pattern.test(shown));
      if (found) return found[1];
    }
    return 'paragraph';
  }

  paragraphProperty(name: string | null, property: string): string | null {
    return this.property('paragraph', name, 'style:paragraph-properties', property);
  }

  graphicProperty(name: string | null, property: string): string | null {
    return this.property('graphic', name, 'style:graphic-properties', property);
  }

  columnWidth(name: string | null): { readonly own: string | null; readonly relative: string | null } {
    const group = 'style:table-column-properties';
    return {
      own: this.property('table-column', name, group, 'style:column-width'),
      relative: this.property('table-column', name, group, 'style:rel-column-width'),
    };
  }

  /** Whether a level of a list counts, and from where. */
  level(name: string | null, level: number): { readonly kind: 'bullet' | 'ordered'; readonly start: number } {
    const found = elementsOf(this.lists.get(name ?? '')).find(
      ({ attributes }) => attributes['text:level'] === String(level),
    );
    const ordered =
      found?.name === 'text:list-level-style-number' && found.attributes['style:num-format'] !== '';
    return {
      kind: ordered ? 'ordered' : 'bullet',
      start: Number(found?.attributes['text:start-value'] ?? 1),
    };
  }

  /** Marks that a paragraph's formatting by hand gives all its text. */
  paragraphMarks(name: string | null, tally: LeftOutTally): readonly Mark[] {
    const style = this.styles.get(`paragraph ${name ?? ''}`);
    const properties = style?.automatic ? down(style.element, 'style:text-properties') : null;
    return properties ? this.marks([], (key) => properties.attributes[key] ?? null, name, tally) : [];
  }

  /** Marks of a span of a style within text that has others. */
  spanMarks(
    outer: readonly Mark[],
    name: string | null,
    paragraph: string | null,
    tally: LeftOutTally,
  ): readonly Mark[] {
    const code = [...this.chain('text', name)].some(({ shown }) =>
      /^(source text|teletype|mark_code|verbatim char)$/.test(shown),
    );
    if (code) return schema.mark('code').addToSet(outer);
    const value = (key: string): string | null => this.property('text', name, 'style:text-properties', key);
    return this.marks(outer, value, paragraph, tally);
  }

  private marks(
    outer: readonly Mark[],
    value: (property: string) => string | null,
    paragraph: string | null,
    tally: LeftOutTally,
  ): readonly Mark[] {
    let marks = outer;
    const set = (name: 'bold' | 'italic' | 'underline' | 'strike', on: boolean | null): void => {
      if (on !== null)
        marks = on ? schema.mark(name).addToSet(marks) : schema.marks[name].removeFromSet(marks);
    };
    const weight = value('fo:font-weight');
    set('bold', weight === null ? null : weight === 'bold' || Number(weight) >= 600);
    const slant = value('fo:font-style');
    set('italic', slant === null ? null : slant !== 'normal');
    const under = value('style:text-underline-style');
    set('underline', under === null ? null : under !== 'none');
    const through = value('style:text-line-through-style');
    set('strike', through === null ? null : through !== 'none');
    const [position = ''] = (value('style:text-position') ?? '').split(' ');
    if (/^(sub|-)/.test(position)) marks = schema.mark('subscript').addToSet(marks);
    else if (/^(super|[1-9])/.test(position)) marks = schema.mark('superscript').addToSet(marks);
    const ink = inkOf(value('fo:background-color'));
    if (ink) marks = schema.mark('highlight', { ink }).addToSet(marks);
    const face = this.typeface(value('style:font-name'));
    if (face) marks = schema.mark('typeface', { face }).addToSet(marks);
    const size = sizeOfRatio(this.ratio(value('fo:font-size'), paragraph));
    if (size) marks = schema.mark('size', { size }).addToSet(marks);
    const colour = value('fo:color');
    if (colour && colour !== '#000000') tally.add('text colours');
    if (
      /caps/.test(
        `${value('fo:font-variant') ?? ''}${value('fo:text-transform') === 'uppercase' ? 'caps' : ''}`,
      )
    )
      tally.add('capitals by style');
    return marks;
  }

  private ratio(size: string | null, paragraph: string | null): number {
    if (!size) return Number.NaN;
    if (size.endsWith('%')) return Number.parseFloat(size) / 100;
    return points(size) / this.sizeOf(paragraph);
  }

  /** The size of a paragraph style's text in points; what formatting by hand says is left out, being a mark. */
  private sizeOf(name: string | null): number {
    for (const { element, automatic } of this.chain('paragraph', name)) {
      const own = automatic ? undefined : down(element, 'style:text-properties')?.attributes['fo:font-size'];
      if (own && !own.endsWith('%')) return points(own);
    }
    return points(down(this.usual, 'style:text-properties')?.attributes['fo:font-size'] ?? '12pt');
  }

  private typeface(font: string | null): 'serif' | 'sans' | 'mono' | null {
    if (font === null) return null;
    const own = FACES.find((face) => FONTS[face].name === font);
    if (own) return own;
    const usual = down(this.usual, 'style:text-properties')?.attributes['style:font-name'] ?? '';
    const family = this.families.get(font);
    if (!family || family === (this.families.get(usual) ?? 'roman')) return null;
    return FACES.find((face) => FONTS[face].family === family) ?? null;
  }

  private property(family: string, name: string | null, group: string, property: string): string | null {
    for (const { element } of this.chain(family, name)) {
      const value = down(element, group)?.attributes[property];
      if (value !== undefined) return value;
    }
    return null;
  }

  /** A style and those it is based on; a circle ends. */
  private *chain(family: string, name: string | null): Generator<Style> {
    const seen = new Set<string>();
    for (let key = name; key !== null && !seen.has(key);) {
      seen.add(key);
      const style = this.styles.get(`${family} ${key}`);
      if (!style) return;
      yield style;
      key = style.parent;
    }
  }
}

/** A length in points. */
function points(length: string): number {
  const value = Number.parseFloat(length);
  const unit = /[a-z]+$/.exec(length)?.[0] ?? 'pt';
  return value * ({ pt: 1, in: 72, cm: 28.3465, mm: 2.83465, pc: 12, px: 0.75 }[unit] ?? 1);
}

/** A length in millimetres; not a number where it says none. */
export function millimetres(length: string | null | undefined): number {
  return length ? points(length) / 2.83465 : Number.NaN;
}

/** A length in CSS pixels, or 0 where it says none. */
export function pixels(length: string | null | undefined): number {
  const value = length ? Math.round(points(length) / 0.75) : 0;
  return Number.isFinite(value) ? value : 0;
}

/** The ink nearest to a colour behind text, or null for none. */
function inkOf(colour: string | null): keyof typeof INK_COLOURS | null {
  const [, r = '', g = '', b = ''] = /^#(..)(..)(..)$/.exec(colour?.toLowerCase() ?? '') ?? [];
  if (!r || colour === '#ffffff') return null;
  const [red, green, blue] = [r, g, b].map((hex) => Number.parseInt(hex, 16)) as [number, number, number];
  if (green > red && green >= blue) return 'reed';
  if (blue > red) return 'sky';
  return red > green && blue > green - (red - green) ? 'rose' : 'sand';
}
