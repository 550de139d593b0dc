import type { Node } from 'prosemirror-model';
import { canonicalText } from '../../content/index.js';
import { SLIDE, deckSchema as schema } from '../../kinds/deck/index.js';
import { FormatError } from '../format.js';
import { OdtBodyReader } from '../odt/body.js';
import { READ as TEXT } from '../odt/names.js';
import { OdtSheet, millimetres } from '../odt/sheet.js';
import type { Element, Namespaces } from '../packed/xml.js';
import { down, elementsOf, parseXml, textIn } from '../packed/xml.js';
import { unpack } from '../packed/zip.js';
import type { Picture } from '../picture.js';
import { pictureOf } from '../picture.js';
import type { Reading } from '../reading.js';
import { LeftOutTally, plainReading } from '../reading.js';
import { ODP, PRESENTATION } from './open-presentation.js';
import type { Placed, SlideParts } from './slide.js';
import { boxOf, deckOf, frameOf, joined, placeOf } from './slide.js';

const READ: Namespaces = {
  ...TEXT,
  [PRESENTATION]: 'presentation',
  'urn:oasis:names:tc:opendocument:xmlns:animation:1.0': 'anim',
};

/**
 * Reads an OpenDocument presentation (ODF 1.0 to 1.3): slides in order, their titles, text, pictures and notes, where each stands. Throws
 * `FormatError` for what is none, or holds more than a deck may.
 */
export function readOdp(bytes: Uint8Array): Reading {
  const parts = unpack(bytes);
  const part = (name: string): Element | null => {
    const data = parts.get(name);
    return data ? parseXml(data, READ) : null;
  };
  const type = parts.get('mimetype');
  if (type && String.fromCharCode(...type.slice(0, 200)).trim() !== ODP)
    throw new FormatError('This file is an OpenDocument file, but no presentation (.odp).');
  const content = part('content.xml');
  const body = down(content, 'office:body', 'office:presentation');
  if (!body) throw new FormatError('This file is no OpenDocument presentation (.odp).');
  const styles = part('styles.xml');
  const tally = new LeftOutTally();
  const pictures: Picture[] = [];
  const picture = (address: string): Picture | null => {
    const found = pictureOf(parts.get(address.replace(/^\.\//, '')) ?? new Uint8Array());
    if (found) pictures.push(found);
    return found;
  };
  const reader = new PageReader(content, styles, picture, tally);
  const doc = deckOf(elementsOf(body, 'draw:page'), (page) => reader.slide(page));
  const meta = down(part('meta.xml'), 'office:meta');
  const about = (name: string): string => {
    const element = down(meta, name);
    return element ? canonicalText(textIn(element), false).trim().slice(0, 200) : '';
  };
  return {
    ...plainReading(doc, pictures, tally.list()),
    author: about('dc:creator') || about('meta:initial-creator'),
    title: about('dc:title'),
  };
}

class PageReader {
  private readonly text: OdtBodyReader;
  private readonly hidden = new Set<string>();

  constructor(
    content: Element | null,
    private readonly styles: Element | null,
    private readonly picture: (address: string) => Picture | null,
    private readonly tally: LeftOutTally,
  ) {
    this.text = new OdtBodyReader(
      new OdtSheet([styles, content]),
      'later',
      { deleted: new Map(), inserted: new Set() },
      () => null,
      tally,
      { text: () => undefined, comment: () => this.tally.add('comments') },
    );
    for (const style of elementsOf(down(content, 'office:automatic-styles'), 'style:style'))
      if (down(style, 'style:drawing-page-properties')?.attributes['presentation:visibility'] === 'hidden')
        this.hidden.add(style.attributes['style:name'] ?? '');
  }

  slide(page: Element): SlideParts {
    const scale = this.scale(page.attributes['draw:master-page-name'] ?? '');
    let title: Node[] | null = null;
    let notes: Node[] = [];
    const things: Node[] = [];
    const take = (shape: Element): void => {
      const kind = shape.attributes['presentation:class'] ?? '';
      const box = down(shape, 'draw:text-box') ?? (shape.name === 'draw:frame' ? null : shape);
      const place = placeIn(shape, scale);
      if (shape.name === 'draw:g') return elementsOf(shape).forEach(take);
      if (shape.name === 'presentation:notes')
        notes = elementsOf(shape, 'draw:frame').flatMap((frame) => {
          const said = down(frame, 'draw:text-box');
          return said ? linesIn(this.blocks(said)).map((line) => schema.node('paragraph', null, line)) : [];
        });
      else if (shape.name.startsWith('anim:')) this.tally.add('motion');
      else if (/^draw:(line|connector|polyline|measure)$/.test(shape.name)) this.tally.add('lines');
      else if (!shape.name.startsWith('draw:') || /^(header|footer|page-number|date-time)$/.test(kind))
        return;
      else if (shape.attributes['presentation:placeholder'] === 'true') return;
      else if (box && kind === 'title' && !title) title = joined(linesIn(this.blocks(box)));
      else if (box) {
        const blocks = this.blocks(box);
        if (box === shape && blocks.every(({ content }) => content.size === 0))
          this.tally.add('shapes without text');
        else
          things.push(boxOf(things.length, blocks.length > 0 ? blocks : [schema.node('paragraph')], place));
      } else if (down(shape, 'draw:image') && !down(shape, 'table:table') && !down(shape, 'draw:object'))
        this.frame(shape, place, things);
      else this.tally.add('tables and charts');
    };
    elementsOf(page).forEach(take);
    return {
      title: title ?? [],
      things,
      notes,
      hidden: this.hidden.has(page.attributes['draw:style-name'] ?? ''),
    };
  }

  private frame(shape: Element, place: Partial<Placed>, things: Node[]): void {
    const held = this.picture(down(shape, 'draw:image')?.attributes['xlink:href'] ?? '');
    if (!held) return this.tally.add('pictures of another kind, or kept elsewhere');
    const about = down(shape, 'svg:desc') ?? down(shape, 'svg:title');
    things.push(frameOf(things.length, held, about ? textIn(about) : '', place));
  }

  /** Units of the slide in a millimetre of its page (ODF 1.2 Part 1, 16.9, 16.5). */
  private scale(master: string): { readonly across: number; readonly down: number } {
    const named = (group: string, name: string, of: string): Element | undefined =>
      elementsOf(down(this.styles, group), name).find(({ attributes }) => attributes['style:name'] === of);
    const layout = named('office:master-styles', 'style:master-page', master)?.attributes[
      'style:page-layout-name'
    ];
    const page = down(
      named('office:automatic-styles', 'style:page-layout', layout ?? ''),
      'style:page-layout-properties',
    )?.attributes;
    return {
      across: SLIDE.width / (millimetres(page?.['fo:page-width']) || 280),
      down: SLIDE.height / (millimetres(page?.['fo:page-height']) || 157.5),
    };
  }

  private blocks(box: Element): Node[] {
    return this.text.blocks(box).flatMap((block) => this.held(block));
  }

  /** A block of text as a box holds it. */
  private held(block: Node): Node[] {
    switch (block.type.name) {
      case 'paragraph':
      case 'heading':
      case 'code_block':
        return [schema.node('paragraph', { align: block.attrs['align'] ?? 'start' }, this.inline(block))];
      case 'quote':
        return block.children.flatMap((child) => this.held(child));
      case 'bullet_list':
      case 'check_list':
      case 'ordered_list': {
        const items = block.children.map((item) => {
          const blocks = item.children.flatMap((child) => this.held(child));
          return schema.node('list_item', null, blocks.length > 0 ? blocks : [schema.node('paragraph')]);
        });
        return block.type.name === 'ordered_list'
          ? [schema.node('ordered_list', { start: Number(block.attrs['start'] ?? 1) }, items)]
          : [schema.node('bullet_list', null, items)];
      }
      default:
        if (block.type.name === 'table') this.tally.add('tables and charts');
        return [];
    }
  }

  private inline(block: Node): Node[] {
    return block.children.flatMap((node): Node[] => {
      if (node.isText || node.type.name === 'hard_break') return [schema.nodeFromJSON(node.toJSON())];
      this.tally.add('pictures and signs within lines');
      return [];
    });
  }
}

/** The lines of blocks, without the lists they stand in. */
function linesIn(blocks: readonly Node[]): (readonly Node[])[] {
  return blocks.flatMap((block) => (block.isTextblock ? [block.children] : linesIn(block.children)));
}

function placeIn(
  { attributes }: Element,
  scale: { readonly across: number; readonly down: number },
): Partial<Placed> {
  const of = (name: string): number => millimetres(attributes[`svg:${name}`]);
  const [x, y, width, height] = [of('x'), of('y'), of('width'), of('height')];
  if ([x, y, width, height].some(Number.isNaN)) return {};
  return placeOf({
    x: x * scale.across,
    y: y * scale.down,
    width: width * scale.across,
    height: height * scale.down,
  });
}
