import type { Mark, Node } from 'prosemirror-model';
import { canonicalText } from '../../content/index.js';
import { deckSchema as schema, SLIDE } from '../../kinds/deck/index.js';
import { isSafeLink } from '../../kinds/text/index.js';
import { FormatError } from '../format.js';
import { sizeOfRatio } from '../looks.js';
import type { Relation } from '../packed/opc.js';
import { aboutOf, mainPart, relationsOf } from '../packed/opc.js';
import type { Element } from '../packed/xml.js';
import { down, elementsOf, ownText, parseXml, within } from '../packed/xml.js';
import type { ZipParts } from '../packed/zip.js';
import { unpack } from '../packed/zip.js';
import type { Picture } from '../picture.js';
import { pictureOf } from '../picture.js';
import type { Reading } from '../reading.js';
import { LeftOutTally, plainReading } from '../reading.js';
import type { SlideLine } from './lines.js';
import { blocksOf } from './lines.js';
import { INK_COLOURS, READ, SIZES } from './presentation.js';
import type { Placed, SlideParts } from './slide.js';
import { boxOf, deckOf, frameOf, joined, placeOf } from './slide.js';

/**
 * Reads an Office Open XML presentation (ISO/IEC 29500): slides in order, their titles, text, pictures and notes, where each stands. Throws
 * `FormatError` for what is none, or holds more than a deck may.
 */
export function readPptx(bytes: Uint8Array): Reading {
  const parts = unpack(bytes);
  const none = 'This file is no presentation (.pptx).';
  const main = mainPart(parts, none);
  const root = parseXml(parts.get(main) ?? new Uint8Array(), READ);
  if (root.name !== 'p:presentation') throw new FormatError(none);
  const related = relationsOf(parts, main);
  const size = down(root, 'p:sldSz')?.attributes;
  const reader = new SlideReader(parts, {
    across: SLIDE.width / (Number(size?.['cx']) || 9_144_000),
    down: SLIDE.height / (Number(size?.['cy']) || 6_858_000),
  });
  const names = elementsOf(down(root, 'p:sldIdLst'), 'p:sldId').flatMap(({ attributes }) => {
    const target = related.get(attributes['r:id'] ?? '')?.target;
    return target !== undefined && parts.has(target) ? [target] : [];
  });
  const doc = deckOf(names, (name) => reader.slide(name));
  return { ...plainReading(doc, reader.pictures, reader.tally.list()), ...aboutOf(parts) };
}

class SlideReader {
  readonly pictures: Picture[] = [];
  readonly tally = new LeftOutTally();
  private readonly parsed = new Map<string, Element | null>();

  constructor(
    private readonly parts: ZipParts,
    private readonly scale: { readonly across: number; readonly down: number },
  ) {}

  private part(name: string | undefined): Element | null {
    if (name === undefined) return null;
    const known = this.parsed.get(name);
    if (known !== undefined) return known;
    const data = this.parts.get(name);
    const root = data ? parseXml(data, READ) : null;
    this.parsed.set(name, root);
    return root;
  }

  slide(name: string): SlideParts {
    const root = this.part(name);
    const related = relationsOf(this.parts, name);
    const beside = (type: string): string | undefined =>
      [...related.values()].find((one) => one.type.endsWith(`/${type}`))?.target;
    const layout = this.part(beside('slideLayout'));
    let title: Node[] | null = null;
    const things: Node[] = [];
    const take = (tree: Element | null): void => {
      for (const shape of elementsOf(tree)) {
        if (shape.name === 'p:grpSp') take(shape);
        else if (shape.name === 'p:pic') things.push(...this.frame(shape, related, things.length));
        else if (shape.name === 'p:sp') {
          const kind = holderOf(shape)?.attributes['type'] ?? '';
          if (/^(title|ctrTitle)$/.test(kind) && !title) title = this.title(shape, related);
          else if (!/^(dt|ftr|sldNum|hdr)$/.test(kind))
            things.push(...this.box(shape, related, layout, things.length));
        } else if (shape.name === 'p:graphicFrame') this.tally.add('tables and charts');
        else if (shape.name === 'p:cxnSp') this.tally.add('lines');
      }
    };
    take(down(root, 'p:cSld', 'p:spTree'));
    if (down(root, 'p:timing') || down(root, 'p:transition')) this.tally.add('motion');
    const hidden = root?.attributes['show'] === '0';
    return { title: title ?? [], things, notes: this.notes(beside('notesSlide')), hidden };
  }

  private title(shape: Element, related: ReadonlyMap<string, Relation>): Node[] {
    const lines = this.lines(shape, related, SIZES.title);
    return joined(lines.map(({ content }) => content));
  }

  private box(
    shape: Element,
    related: ReadonlyMap<string, Relation>,
    layout: Element | null,
    count: number,
  ): Node[] {
    const lines = this.lines(shape, related, SIZES.text);
    const own = holderOf(shape);
    const isTextBox = down(shape, 'p:nvSpPr', 'p:cNvSpPr')?.attributes['txBox'] === '1';
    if (!isTextBox && lines.every(({ content }) => content.length === 0)) {
      if (!own) this.tally.add('shapes without text');
      return [];
    }
    // Text in the body of a layout is a list unless it says otherwise.
    const listed = own && !/^(subTitle|ctrTitle|title)$/.test(own.attributes['type'] ?? '');
    const blocks = blocksOf(
      lines.map((line) => (listed && !line.said ? { ...line, bullet: 'bullet' as const } : line)),
    );
    const at = this.placeOf(down(shape, 'p:spPr', 'a:xfrm') ?? this.heldPlace(layout, own));
    return [boxOf(count, blocks, at)];
  }

  /** Where a layout has the place that a shape fills. */
  private heldPlace(layout: Element | null, own: Element | null): Element | null {
    const { idx, type } = own?.attributes ?? {};
    const held = elementsOf(down(layout, 'p:cSld', 'p:spTree'), 'p:sp').find((shape) => {
      const holder = holderOf(shape)?.attributes;
      return holder && (idx === undefined ? holder['type'] === type : holder['idx'] === idx);
    });
    return down(held, 'p:spPr', 'a:xfrm');
  }

  private placeOf(transform: Element | null): Partial<Placed> {
    const [off, ext] = [down(transform, 'a:off')?.attributes, down(transform, 'a:ext')?.attributes];
    if (!off || !ext) return {};
    return placeOf({
      x: Number(off['x']) * this.scale.across,
      y: Number(off['y']) * this.scale.down,
      width: Number(ext['cx']) * this.scale.across,
      height: Number(ext['cy']) * this.scale.down,
    });
  }

  private frame(shape: Element, related: ReadonlyMap<string, Relation>, count: number): Node[] {
    const embedded = within(shape, 'a:blip')?.attributes['r:embed'];
    const data = this.parts.get(related.get(embedded ?? '')?.target ?? '');
    const picture = data && pictureOf(data);
    if (!picture) {
      this.tally.add('pictures of another kind, or kept elsewhere');
      return [];
    }
    this.pictures.push(picture);
    const alt = down(shape, 'p:nvPicPr', 'p:cNvPr')?.attributes['descr'] ?? '';
    return [frameOf(count, picture, alt, this.placeOf(down(shape, 'p:spPr', 'a:xfrm')))];
  }

  private notes(name: string | undefined): Node[] {
    const tree = down(this.part(name), 'p:cSld', 'p:spTree');
    const body = elementsOf(tree, 'p:sp').find((shape) => holderOf(shape)?.attributes['type'] === 'body');
    if (!body || name === undefined) return [];
    const lines = this.lines(body, relationsOf(this.parts, name), SIZES.text);
    return lines.map(({ content }) => schema.node('paragraph', null, [...content]));
  }

  private lines(
    shape: Element,
    related: ReadonlyMap<string, Relation>,
    usual: number,
  ): (SlideLine & { said: boolean })[] {
    return elementsOf(down(shape, 'p:txBody'), 'a:p').map((paragraph) => {
      const properties = down(paragraph, 'a:pPr');
      const [char, number] = [
        down(properties, 'a:buChar') ?? down(properties, 'a:buBlip'),
        down(properties, 'a:buAutoNum'),
      ];
      const level = Math.max(0, Math.min(8, Number(properties?.attributes['lvl']) || 0));
      return {
        bullet: char ? 'bullet' : number ? 'number' : 'none',
        said: char !== null || number !== null || down(properties, 'a:buNone') !== null,
        level,
        start: Math.max(0, Math.min(1_000_000, Number(number?.attributes['startAt']) || 1)),
        align: { ctr: 'center', r: 'end', just: 'justify' }[properties?.attributes['algn'] ?? ''] ?? '',
        content: this.content(paragraph, related, usual),
      };
    });
  }

  private content(paragraph: Element, related: ReadonlyMap<string, Relation>, usual: number): Node[] {
    return elementsOf(paragraph).flatMap((run): Node[] => {
      if (run.name === 'a:br') return [schema.node('hard_break')];
      if (run.name !== 'a:r' && run.name !== 'a:fld') return [];
      const text = canonicalText(elementsOf(run, 'a:t').map(ownText).join(''), false).replace(
        /\p{Surrogate}|\u007f/gu,
        '',
      );
      return text === '' ? [] : [schema.text(text, marksOf(down(run, 'a:rPr'), related, usual))];
    });
  }
}

/** The place of a layout that a shape fills; null for one that has its own. */
function holderOf(shape: Element): Element | null {
  return down(shape, 'p:nvSpPr', 'p:nvPr', 'p:ph');
}

function marksOf(properties: Element | null, related: ReadonlyMap<string, Relation>, usual: number): Mark[] {
  if (!properties) return [];
  const { b, i, u, strike, baseline, sz } = properties.attributes;
  const marks: Mark[] = [];
  const put = (name: string, attrs?: Record<string, string>): void =>
    void marks.push(schema.mark(name, attrs));
  const href = related.get(down(properties, 'a:hlinkClick')?.attributes['r:id'] ?? '')?.target;
  if (isSafeLink(href)) put('link', { href });
  if (b === '1' || b === 'true') put('bold');
  if (i === '1' || i === 'true') put('italic');
  if (u !== undefined && u !== 'none') put('underline');
  if (strike !== undefined && strike !== 'noStrike') put('strike');
  if (Number(baseline) < 0) put('subscript');
  if (Number(baseline) > 0) put('superscript');
  const ink = down(properties, 'a:highlight', 'a:srgbClr')?.attributes['val']?.toUpperCase();
  if (ink !== undefined) put('highlight', { ink: inkOf(ink) });
  const face = down(properties, 'a:latin')?.attributes['typeface'] ?? '';
  const family = /mono|courier|consol/i.test(face)
    ? 'mono'
    : /serif|times|georgia|garamond/i.test(face)
      ? 'serif'
      : /^\+|^$/.test(face)
        ? null
        : 'sans';
  if (family) put('typeface', { face: family });
  const size = sizeOfRatio(Number(sz) / usual);
  if (size) put('size', { size });
  return marks;
}

/** The nearest of our inks. */
function inkOf(colour: string): string {
  const parts = (one: string): number[] => [0, 2, 4].map((at) => parseInt(one.slice(at, at + 2), 16) || 0);
  const own = parts(colour);
  const far = (ink: string): number =>
    parts(INK_COLOURS[ink] ?? '').reduce((sum, part, i) => sum + (part - (own[i] ?? 0)) ** 2, 0);
  return Object.keys(INK_COLOURS).sort((one, other) => far(one) - far(other))[0] ?? 'sand';
}
