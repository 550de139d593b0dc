import type { Element } from '../packed/xml.js';
import { down, elementsOf } from '../packed/xml.js';
import { FONTS } from '../looks.js';

/** Direct or inherited properties of a style that reading looks at. */
interface Style {
  readonly name: string;
  readonly element: Element;
  readonly basedOn: string | null;
}

/** What a paragraph is, by its style. */
export type ParagraphKind =
  | { readonly kind: 'paragraph' | 'quote' | 'code' | 'item' | 'between' }
  | { readonly kind: 'heading'; readonly level: number };

/** A level of a list: whether it counts, from where, and whether it shows any mark at all. */
export interface Level {
  readonly kind: 'bullet' | 'ordered' | 'blank';
  readonly start: number;
  /** How far its text is set in, in twentieths of a point. */
  readonly left: number;
}

export function valueOf(element: Element | null, name = 'w:val'): string | null {
  return element?.attributes[name] ?? null;
}

/** A property that is on when its element is there, unless it says otherwise (ECMA-376 Part 1, 17.17.4). */
export function isOn(element: Element | null, name = 'w:val'): boolean {
  return element !== null && !['0', 'false', 'off', 'none'].includes(valueOf(element, name) ?? 'true');
}

/** How far paragraph properties set in the text, in twentieths of a point, or null when they do not say. */
export function indentOf(properties: Element | null): number | null {
  const attributes = down(properties, 'w:ind')?.attributes;
  const left = attributes?.['w:left'] ?? attributes?.['w:start'];
  return left === undefined ? null : Number(left) || 0;
}

/** Styles, numbering and fonts of a file. */
export class DocxSheet {
  private readonly styles = new Map<string, Style>();
  private readonly levels = new Map<string, Level>();
  private readonly families = new Map<string, string>();
  private readonly defaults: Element | null;

  constructor(styles: Element | null, numbering: Element | null, fonts: Element | null) {
    this.defaults = down(styles, 'w:docDefaults', 'w:rPrDefault', 'w:rPr');
    for (const element of elementsOf(styles, 'w:style')) {
      const name = (valueOf(down(element, 'w:name')) ?? '').toLowerCase();
      this.styles.set(valueOf(element, 'w:styleId') ?? '', {
        name,
        element,
        basedOn: valueOf(down(element, 'w:basedOn')),
      });
    }
    for (const font of elementsOf(fonts, 'w:font'))
      this.families.set(valueOf(font, 'w:name') ?? '', valueOf(down(font, 'w:family')) ?? 'auto');
    this.readNumbering(numbering);
  }

  private readNumbering(numbering: Element | null): void {
    const abstracts = new Map(
      elementsOf(numbering, 'w:abstractNum').map((one) => [valueOf(one, 'w:abstractNumId'), one]),
    );
    for (const num of elementsOf(numbering, 'w:num')) {
      const id = valueOf(num, 'w:numId') ?? '';
      const abstractId = valueOf(down(num, 'w:abstractNumId')) ?? '';
      for (const level of elementsOf(abstracts.get(abstractId), 'w:lvl')) this.readLevel(id, level);
      for (const override of elementsOf(num, 'w:lvlOverride')) {
        const own = down(override, 'w:lvl');
        const start = Number(valueOf(down(override, 'w:startOverride')));
        if (own) this.readLevel(id, own);
        const key = `${id} ${valueOf(override, 'w:ilvl') ?? '0'}`;
        const level = this.levels.get(key);
        if (level && down(override, 'w:startOverride')) this.levels.set(key, { ...level, start });
      }
    }
  }

  private readLevel(id: string, level: Element): void {
    const format = valueOf(down(level, 'w:numFmt')) ?? 'decimal';
    const shows = (valueOf(down(level, 'w:lvlText')) ?? '').trim() !== '';
    const kind = !shows || format === 'none' ? 'blank' : format === 'bullet' ? 'bullet' : 'ordered';
    this.levels.set(`${id} ${valueOf(level, 'w:ilvl') ?? '0'}`, {
      kind,
      start: Number(valueOf(down(level, 'w:start')) ?? 0),
      left: indentOf(down(level, 'w:pPr')) ?? 0,
    });
  }

  /** A level of a list, or null when the file does not define it (`numId` 0 takes a paragraph out of its list). */
  level(numId: string, level: string): Level | null {
    return numId === '0' ? null : (this.levels.get(`${numId} ${level}`) ?? null);
  }

  /** What a paragraph of a style is, by the style's name or that of one it is based on. */
  paragraphKind(styleId: string | null): ParagraphKind {
    for (const { name } of this.chain(styleId)) {
      const level = /^heading (\d)$/.exec(name)?.[1] ?? (name === 'title' ? '1' : null);
      if (level) return { kind: 'heading', level: Math.min(6, Math.max(1, Number(level))) };
      if (name === 'subtitle') return { kind: 'heading', level: 2 };
      if (/^(intense )?quote$|^block ?(text|quote)$|^quotations?$/.test(name)) return { kind: 'quote' };
      if (/^(source code|code|html preformatted|preformatted text|plain text)$/.test(name))
        return { kind: 'code' };
      if (/^list (paragraph|continue)/.test(name)) return { kind: 'item' };
      if (name === 'between tables') return { kind: 'between' };
    }
    const outline = valueOf(this.paragraphProperty(styleId, 'w:outlineLvl'));
    if (outline !== null && Number(outline) < 6) return { kind: 'heading', level: Number(outline) + 1 };
    return { kind: 'paragraph' };
  }

  paragraphProperty(styleId: string | null, name: string): Element | null {
    return this.found(styleId, 'w:pPr', name);
  }

  runProperty(styleId: string | null, name: string): Element | null {
    return this.found(styleId, 'w:rPr', name);
  }

  styleName(styleId: string | null): string {
    return this.styles.get(styleId ?? '')?.name ?? '';
  }

  /** The size of a style's text in half points. */
  size(styleId: string | null): number {
    const own = this.runProperty(styleId ?? this.defaultStyle(), 'w:sz') ?? down(this.defaults, 'w:sz');
    return Number(valueOf(own)) || 20;
  }

  /** The typeface of a run's own font, where it is not that of the text round it. */
  typeface(font: string | null): 'serif' | 'sans' | 'mono' | null {
    if (font === null) return null;
    const faces = ['serif', 'sans', 'mono'] as const;
    const own = faces.find((face) => FONTS[face].name === font);
    if (own) return own;
    const usual = valueOf(down(this.defaults, 'w:rFonts'), 'w:ascii') ?? '';
    const family = this.families.get(font);
    if (family === undefined || family === 'auto' || family === (this.families.get(usual) ?? 'roman'))
      return null;
    return faces.find((face) => FONTS[face].family === family) ?? null;
  }

  private defaultStyle(): string | null {
    for (const [id, { element }] of this.styles)
      if (valueOf(element, 'w:type') === 'paragraph' && valueOf(element, 'w:default') === '1') return id;
    return null;
  }

  private found(styleId: string | null, group: 'w:pPr' | 'w:rPr', name: string): Element | null {
    for (const { element } of this.chain(styleId)) {
      const found = down(element, group, name);
      if (found) return found;
    }
    return null;
  }

  /** A style and those it is based on; a circle ends. */
  private *chain(styleId: string | null): Generator<Style> {
    const seen = new Set<string>();
    for (let id = styleId; id !== null && !seen.has(id);) {
      seen.add(id);
      const style = this.styles.get(id);
      if (!style) return;
      yield style;
      id = style.basedOn;
    }
  }
}
