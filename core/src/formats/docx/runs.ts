import type { Mark, Node } from 'prosemirror-model';
import type { ImagePlace } from '../../kinds/text/index.js';
import type { Element } from '../packed/xml.js';
import { el } from '../packed/xml.js';
import { FONTS, SIZE_RATIOS, usualWidth } from '../looks.js';
import type { Picture } from '../picture.js';
import type { Hand } from '../writing.js';
import { EMUS, INK_COLOURS, STYLES, WRITTEN } from './names.js';
import type { Paper } from './paper.js';

/** Whether a piece came, went, or moved, and by whom. */
export interface Track extends Hand {
  readonly kind: 'ins' | 'del' | 'moveFrom' | 'moveTo';
}

/** Inline content to write. */
export interface Inline {
  readonly node: Node;
  readonly track: Track | null;
  /** The marks it had before a change of form. */
  readonly before?: { readonly marks: readonly Mark[]; readonly by: Hand };
}

/** Inline content, or a check box. */
export type RunPiece = Inline | { readonly box: boolean; readonly track: Track | null };

/** Attributes of a tracked change (ECMA-376 Part 1, 17.13.5.4): a number, an author, a time in whole seconds. */
export function trackAttributes(paper: Paper, { author, at }: Hand): Record<string, string | number | null> {
  return { 'w:id': paper.next(), 'w:author': author, 'w:date': at ? `${at.slice(0, 19)}Z` : null };
}

/** The runs of a text block, neighbours of one link within one element. `base` is the size of its text in half points. */
export function runsOf(
  pieces: readonly RunPiece[],
  base: number,
  paper: Paper,
  picture: (hash: string) => Picture | null,
): Element[] {
  const out: Element[] = [];
  let open: { mark: Mark; element: Element } | null = null;
  for (const piece of pieces) {
    const link = 'node' in piece ? piece.node.marks.find((mark) => mark.type.name === 'link') : undefined;
    const run =
      'node' in piece
        ? tracked(piece, runOf(piece, base, paper, picture), paper)
        : boxOf(piece.box, tracked(piece, glyphOf(piece.box, piece.track), paper), paper);
    if (!link) {
      open = null;
      out.push(run);
    } else if (open?.mark.eq(link)) open.element.children.push(run);
    else {
      open = { mark: link, element: linkOf(link, run, paper) };
      out.push(open.element);
    }
  }
  return out;
}

function linkOf(link: Mark, run: Element, paper: Paper): Element {
  const { href, title } = link.attrs as { href: string; title: string | null };
  const inside = href.startsWith('#');
  return el(
    'w:hyperlink',
    {
      'r:id': inside ? null : paper.link(href),
      'w:anchor': inside ? href.slice(1) : null,
      'w:tooltip': title,
      'w:history': 1,
    },
    [run],
  );
}

function tracked({ track }: RunPiece, run: Element, paper: Paper): Element {
  return track ? el(`w:${track.kind}`, trackAttributes(paper, track), [run]) : run;
}

/** A check box (content control of [MS-DOCX] 2.5.4) round the run that shows it. */
function boxOf(checked: boolean, shown: Element, paper: Paper): Element {
  const state = (char: string): Record<string, string> => ({ 'w14:val': char, 'w14:font': 'MS Gothic' });
  return el('w:sdt', {}, [
    el('w:sdtPr', {}, [
      el('w:id', { 'w:val': paper.next() }),
      el('w14:checkbox', {}, [
        el('w14:checked', { 'w14:val': Number(checked) }),
        el('w14:checkedState', state('2612')),
        el('w14:uncheckedState', state('2610')),
      ]),
    ]),
    el('w:sdtContent', {}, [shown]),
  ]);
}

function glyphOf(checked: boolean, track: Track | null): Element {
  return el('w:r', {}, [el(textTag(track), {}, [checked ? '\u2612' : '\u2610'])]);
}

function textTag(track: Track | null): string {
  return track?.kind === 'del' ? 'w:delText' : 'w:t';
}

function runOf(
  { node, track, before }: Inline,
  base: number,
  paper: Paper,
  picture: (hash: string) => Picture | null,
): Element {
  const properties = runProperties(node.marks, base);
  if (before)
    properties.push(
      el('w:rPrChange', trackAttributes(paper, before.by), [
        el('w:rPr', {}, runProperties(before.marks, base)),
      ]),
    );
  const run = (content: readonly Element[]): Element =>
    el('w:r', {}, [properties.length > 0 ? el('w:rPr', {}, properties) : null, ...content]);
  const text = (value: string): Element => el(textTag(track), { 'xml:space': 'preserve' }, [value]);
  if (node.isText) return run(lined(node.text ?? '', text));
  if (node.type.name === 'hard_break') return run([el('w:br')]);
  if (node.type.name === 'footnote_mark') {
    const sign = el('w:rStyle', { 'w:val': STYLES.footnoteSign.id });
    properties.splice(0, properties[0]?.name === 'w:rStyle' ? 1 : 0, sign);
    return run([el('w:footnoteReference', { 'w:id': paper.notes.sign(String(node.attrs['note'])) })]);
  }
  const held = picture(String(node.attrs['hash']));
  return run([held ? drawingOf(node, held, paper) : text(`[${String(node.attrs['alt'])}]`)]);
}

/** Text with its line ends and tabs, which only code has, as elements. */
function lined(value: string, text: (value: string) => Element): Element[] {
  return value
    .split(/([\n\t])/)
    .filter((part) => part !== '')
    .map((part) => (part === '\n' ? el('w:br') : part === '\t' ? el('w:tab') : text(part)));
}

/** Run properties for marks, in the order of the schema (ECMA-376 Part 1, A.1, EG_RPrBase). */
function runProperties(marks: readonly Mark[], base: number): Element[] {
  const held = new Map(marks.map((mark) => [mark.type.name, mark]));
  const attr = <T extends string>(name: string, key: string): T | undefined =>
    held.get(name)?.attrs[key] as T | undefined;
  const face = attr<keyof typeof FONTS>('typeface', 'face');
  const size = attr<keyof typeof SIZE_RATIOS>('size', 'size');
  const ink = attr<keyof typeof INK_COLOURS>('highlight', 'ink');
  const font = face && FONTS[face].name;
  const script = held.has('subscript') ? 'subscript' : held.has('superscript') ? 'superscript' : null;
  const style = held.has('code') ? STYLES.inlineCode.id : held.has('link') ? STYLES.link.id : null;
  const points = size && Math.round(base * SIZE_RATIOS[size]);
  return [
    style ? el('w:rStyle', { 'w:val': style }) : null,
    font ? el('w:rFonts', { 'w:ascii': font, 'w:hAnsi': font, 'w:cs': font }) : null,
    held.has('bold') ? el('w:b') : null,
    held.has('italic') ? el('w:i') : null,
    held.has('strike') ? el('w:strike') : null,
    points ? el('w:sz', { 'w:val': points }) : null,
    points ? el('w:szCs', { 'w:val': points }) : null,
    ink ? el('w:highlight', { 'w:val': INK_COLOURS[ink] }) : null,
    held.has('underline') ? el('w:u', { 'w:val': 'single' }) : null,
    script ? el('w:vertAlign', { 'w:val': script }) : null,
  ].filter((property) => property !== null);
}

/** An image in the line (ECMA-376 Part 1, 20.4.2.8), at its own size or no wider than the text. */
function drawingOf(node: Node, picture: Picture, paper: Paper): Element {
  const wide = (node.attrs['width'] as number | null) ?? usualWidth(picture);
  const high = Math.max(1, Math.round((wide * picture.height) / picture.width));
  const size = { cx: wide * EMUS, cy: high * EMUS };
  const id = paper.next();
  const name = `Picture ${id}`;
  const { alt, caption, place } = node.attrs as { alt: string; caption: string; place: ImagePlace };
  return el('w:drawing', {}, [
    placed(place, size, [
      el('wp:docPr', { id, name, descr: alt, title: caption || null }),
      el('wp:cNvGraphicFramePr', {}, [el('a:graphicFrameLocks', { noChangeAspect: 1 })]),
      el('a:graphic', {}, [
        el('a:graphicData', { uri: WRITTEN.pic }, [
          el('pic:pic', {}, [
            el('pic:nvPicPr', {}, [el('pic:cNvPr', { id, name }), el('pic:cNvPicPr')]),
            el('pic:blipFill', {}, [
              el('a:blip', { 'r:embed': paper.image(picture) }),
              el('a:stretch', {}, [el('a:fillRect')]),
            ]),
            el('pic:spPr', {}, [
              el('a:xfrm', {}, [el('a:off', { x: 0, y: 0 }), el('a:ext', size)]),
              el('a:prstGeom', { prst: 'rect' }, [el('a:avLst')]),
            ]),
          ]),
        ]),
      ]),
    ]),
  ]);
}

/** How far text stays away from an image beside it, in English metric units. */
const AWAY = 114_300;

/** What says where an image stands: in the line, or anchored to its paragraph with text round it (20.4.2.3). */
function placed(
  place: ImagePlace,
  size: { readonly cx: number; readonly cy: number },
  content: readonly Element[],
): Element {
  if (place === 'line')
    return el('wp:inline', { distT: 0, distB: 0, distL: 0, distR: 0 }, [el('wp:extent', size), ...content]);
  const align = { start: 'left', end: 'right', wide: 'center' }[place];
  const wrap = place === 'wide' ? el('wp:wrapTopAndBottom') : el('wp:wrapSquare', { wrapText: 'bothSides' });
  return el(
    'wp:anchor',
    {
      distT: 0,
      distB: 0,
      distL: AWAY,
      distR: AWAY,
      simplePos: 0,
      relativeHeight: 1,
      behindDoc: 0,
      locked: 0,
      layoutInCell: 1,
      allowOverlap: 0,
    },
    [
      el('wp:simplePos', { x: 0, y: 0 }),
      el('wp:positionH', { relativeFrom: 'column' }, [el('wp:align', {}, [align])]),
      el('wp:positionV', { relativeFrom: 'paragraph' }, [el('wp:posOffset', {}, ['0'])]),
      el('wp:extent', size),
      wrap,
      ...content,
    ],
  );
}
