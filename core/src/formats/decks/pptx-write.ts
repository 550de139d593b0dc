import type { Node } from 'prosemirror-model';
import { slidesOf, titlePlace } from '../../kinds/deck/index.js';
import type { SlideView } from '../../kinds/deck/index.js';
import { coreProperties, relations } from '../docx/parts.js';
import { FONTS, SIZE_RATIOS } from '../looks.js';
import type { Element } from '../packed/xml.js';
import { el, printXml } from '../packed/xml.js';
import type { ZipPart } from '../packed/zip.js';
import { pack } from '../packed/zip.js';
import type { Picture } from '../picture.js';
import { endingOf } from '../picture.js';
import type { WriteOptions } from '../writing.js';
import type { SlideLine } from './lines.js';
import { linesOf, markOf } from './lines.js';
import { EMU, INK_COLOURS, SIZES, WRITTEN, frameParts } from './presentation.js';

const MAIN = 'application/vnd.openxmlformats-officedocument.presentationml';
const PACKAGE = 'http://schemas.openxmlformats.org/package/2006';
const DECLARED = { 'xmlns:a': WRITTEN.a, 'xmlns:r': WRITTEN.r, 'xmlns:p': WRITTEN.p };

/** Writes a deck as an Office Open XML presentation (ISO/IEC 29500 transitional): slides in the order in which they are shown. */
export function writePptx(
  deck: Node,
  { title, author, at, picture }: Pick<WriteOptions, 'title' | 'author' | 'at' | 'picture'>,
): Uint8Array {
  const slides = slidesOf(deck);
  const written = slides.map((slide, i) => new SlideWriter(slide, i + 1, picture).parts());
  const pictures = new Map(written.flatMap((one) => one.pictures.map((held) => [held.hash, held])));
  const part = (name: string, root: Element): ZipPart => ({ name, content: printXml(root) });
  return pack([
    part('[Content_Types].xml', contentTypes(slides.length)),
    part('_rels/.rels', relations([relation('main', 'officeDocument', 'ppt/presentation.xml'), core()])),
    part('ppt/presentation.xml', presentation(slides.length)),
    part(
      'ppt/_rels/presentation.xml.rels',
      relations([
        relation('master', 'slideMaster', 'slideMasters/slideMaster1.xml'),
        relation('notes', 'notesMaster', 'notesMasters/notesMaster1.xml'),
        ...slides.map((_, i) => relation(`slide${i + 1}`, 'slide', `slides/slide${i + 1}.xml`)),
      ]),
    ),
    ...frameParts(),
    ...written.flatMap(({ parts }) => parts.map(([name, root]) => part(name, root))),
    ...[...pictures.values()].map((held) => ({
      name: `ppt/media/${held.hash}.${endingOf(held)}`,
      content: held.bytes,
      stored: true,
    })),
    part('docProps/core.xml', coreProperties(title, author, at)),
  ]);
}

function relation(id: string, type: string, target: string): Element {
  return el('Relationship', { Id: id, Type: `${WRITTEN.r}/${type}`, Target: target });
}

function core(): Element {
  return el('Relationship', {
    Id: 'core',
    Type: `${PACKAGE}/relationships/metadata/core-properties`,
    Target: 'docProps/core.xml',
  });
}

function contentTypes(slides: number): Element {
  const of = (name: string, type: string): Element =>
    el('Override', { PartName: `/${name}`, ContentType: type });
  const numbers = Array.from({ length: slides }, (_, i) => i + 1);
  return el('Types', { xmlns: `${PACKAGE}/content-types` }, [
    el('Default', {
      Extension: 'rels',
      ContentType: 'application/vnd.openxmlformats-package.relationships+xml',
    }),
    el('Default', { Extension: 'xml', ContentType: 'application/xml' }),
    ...['png', 'jpg', 'gif', 'webp'].map((ending) =>
      el('Default', { Extension: ending, ContentType: `image/${ending === 'jpg' ? 'jpeg' : ending}` }),
    ),
    of('ppt/presentation.xml', `${MAIN}.presentation.main+xml`),
    of('ppt/slideMasters/slideMaster1.xml', `${MAIN}.slideMaster+xml`),
    of('ppt/slideLayouts/slideLayout1.xml', `${MAIN}.slideLayout+xml`),
    of('ppt/notesMasters/notesMaster1.xml', `${MAIN}.notesMaster+xml`),
    ...[1, 2].map((n) =>
      of(`ppt/theme/theme${n}.xml`, 'application/vnd.openxmlformats-officedocument.theme+xml'),
    ),
    ...numbers.map((n) => of(`ppt/slides/slide${n}.xml`, `${MAIN}.slide+xml`)),
    ...numbers.map((n) => of(`ppt/notesSlides/notesSlide${n}.xml`, `${MAIN}.notesSlide+xml`)),
    of('docProps/core.xml', 'application/vnd.openxmlformats-package.core-properties+xml'),
  ]);
}

function presentation(slides: number): Element {
  return el('p:presentation', DECLARED, [
    el('p:sldMasterIdLst', {}, [el('p:sldMasterId', { id: 2 ** 31, 'r:id': 'master' })]),
    el('p:notesMasterIdLst', {}, [el('p:notesMasterId', { 'r:id': 'notes' })]),
    el(
      'p:sldIdLst',
      {},
      Array.from({ length: slides }, (_, i) => el('p:sldId', { id: 256 + i, 'r:id': `slide${i + 1}` })),
    ),
    el('p:sldSz', { cx: 16_000 * EMU, cy: 9000 * EMU }),
    el('p:notesSz', { cx: 6_858_000, cy: 9_144_000 }),
  ]);
}

/** Writes one slide, its notes, and what they refer to. */
class SlideWriter {
  private readonly relations: Element[] = [
    relation('layout', 'slideLayout', '../slideLayouts/slideLayout1.xml'),
  ];
  private readonly pictures: Picture[] = [];
  private next = 2;

  constructor(
    private readonly slide: SlideView,
    private readonly number: number,
    private readonly picture: WriteOptions['picture'],
  ) {}

  parts(): { parts: [name: string, root: Element][]; pictures: Picture[] } {
    const { number } = this;
    const { node, hidden } = this.slide;
    const shapes = node.children.flatMap((child) => this.shape(child, String(node.attrs['layout'])));
    const notes = node.lastChild?.children ?? [];
    this.relations.push(relation('notes', 'notesSlide', `../notesSlides/notesSlide${number}.xml`));
    const slide = el('p:sld', { ...DECLARED, ...(hidden ? { show: 0 } : {}) }, [
      el('p:cSld', {}, [tree(shapes)]),
    ]);
    // What notes link to is written as text: their part has relations of its own.
    const body = shape(
      2,
      'Notes',
      el('p:ph', { type: 'body', idx: 1 }),
      null,
      this.body(linesOf(notes), false),
    );
    return {
      parts: [
        [`ppt/slides/slide${number}.xml`, slide],
        [`ppt/slides/_rels/slide${number}.xml.rels`, relations(this.relations)],
        [
          `ppt/notesSlides/notesSlide${number}.xml`,
          el('p:notes', DECLARED, [el('p:cSld', {}, [tree([body])])]),
        ],
        [
          `ppt/notesSlides/_rels/notesSlide${number}.xml.rels`,
          relations([
            relation('slide', 'slide', `../slides/slide${number}.xml`),
            relation('master', 'notesMaster', '../notesMasters/notesMaster1.xml'),
          ]),
        ],
      ],
      pictures: this.pictures,
    };
  }

  private shape(node: Node, layout: string): Element[] {
    const id = this.next++;
    switch (node.type.name) {
      case 'title': {
        const line: SlideLine = { bullet: 'none', level: 0, start: 1, align: '', content: node.children };
        const at = layout === 'title' ? titlePlace(layout) : null;
        return [shape(id, 'Title', el('p:ph', { type: 'title' }), at, this.body([line], true))];
      }
      case 'box':
        return [
          shape(
            id,
            `Text ${String(node.attrs['id'])}`,
            null,
            node.attrs,
            this.body(linesOf(node.children), true),
          ),
        ];
      case 'frame':
        return this.frame(node, id);
      default:
        return [];
    }
  }

  private frame(node: Node, id: number): Element[] {
    const held = this.picture(String(node.attrs['hash']));
    if (!held) return [];
    this.pictures.push(held);
    const target = `../media/${held.hash}.${endingOf(held)}`;
    this.relations.push(relation(`picture${id}`, 'image', target));
    const name = { id, name: `Picture ${String(node.attrs['id'])}`, descr: String(node.attrs['alt']) };
    return [
      el('p:pic', {}, [
        el('p:nvPicPr', {}, [el('p:cNvPr', name), el('p:cNvPicPr'), el('p:nvPr')]),
        el('p:blipFill', {}, [
          el('a:blip', { 'r:embed': `picture${id}` }),
          el('a:stretch', {}, [el('a:fillRect')]),
        ]),
        el('p:spPr', {}, [place(node.attrs), el('a:prstGeom', { prst: 'rect' }, [el('a:avLst')])]),
      ]),
    ];
  }

  private body(lines: readonly SlideLine[], links: boolean): Element {
    return el('p:txBody', {}, [
      el('a:bodyPr', { wrap: 'square' }),
      el('a:lstStyle'),
      ...(lines.length > 0 ? lines : [EMPTY]).map((line) => this.paragraph(line, links)),
    ]);
  }

  private paragraph({ bullet, level, start, align, content }: SlideLine, links: boolean): Element {
    const indent = 457_200;
    const algn = { center: 'ctr', end: 'r', justify: 'just' }[align];
    const listed = bullet !== 'none';
    const properties = el(
      'a:pPr',
      {
        ...(level > 0 || listed ? { marL: indent * (level + (listed ? 1 : 0)), lvl: level } : {}),
        ...(listed ? { indent: -342_900 } : {}),
        algn,
      },
      [
        bullet === 'bullet'
          ? el('a:buChar', { char: '•' })
          : bullet === 'number'
            ? el('a:buAutoNum', { type: 'arabicPeriod', ...(start === 1 ? {} : { startAt: start }) })
            : el('a:buNone'),
      ],
    );
    return el('a:p', {}, [properties, ...content.map((node) => this.run(node, links))]);
  }

  private run(node: Node, links: boolean): Element {
    if (node.type.name === 'hard_break') return el('a:br');
    const has = (name: string): boolean => markOf(node, name) !== undefined;
    const [size, face, ink, link] = ['size', 'typeface', 'highlight', 'link'].map((name) =>
      markOf(node, name),
    );
    const ratio = size ? SIZE_RATIOS[String(size.attrs['size']) as keyof typeof SIZE_RATIOS] : null;
    const font = has('code')
      ? FONTS.mono
      : face
        ? FONTS[String(face.attrs['face']) as keyof typeof FONTS]
        : null;
    const baseline = has('superscript') ? 30_000 : has('subscript') ? -25_000 : null;
    const properties = el(
      'a:rPr',
      {
        b: has('bold') ? 1 : null,
        i: has('italic') ? 1 : null,
        u: has('underline') ? 'sng' : null,
        strike: has('strike') ? 'sngStrike' : null,
        baseline,
        sz: ratio === null ? null : Math.round(SIZES.text * ratio),
      },
      [
        ink ? el('a:highlight', {}, [el('a:srgbClr', { val: INK_COLOURS[String(ink.attrs['ink'])] })]) : null,
        font ? el('a:latin', { typeface: font.name }) : null,
        link && links ? el('a:hlinkClick', { 'r:id': this.link(String(link.attrs['href'])) }) : null,
      ],
    );
    return el('a:r', {}, [properties, el('a:t', {}, [node.text ?? ''])]);
  }

  private link(href: string): string {
    const id = `link${this.relations.length}`;
    this.relations.push(
      el('Relationship', { Id: id, Type: `${WRITTEN.r}/hyperlink`, Target: href, TargetMode: 'External' }),
    );
    return id;
  }
}

const EMPTY: SlideLine = { bullet: 'none', level: 0, start: 1, align: '', content: [] };

/** What stands on a slide, in order. */
export function tree(shapes: readonly Element[]): Element {
  return el('p:spTree', {}, [
    el('p:nvGrpSpPr', {}, [el('p:cNvPr', { id: 1, name: '' }), el('p:cNvGrpSpPr'), el('p:nvPr')]),
    el('p:grpSpPr'),
    ...shapes,
  ]);
}

/** A shape with text: in a place of the layout, or in its own. */
function shape(
  id: number,
  name: string,
  holder: Element | null,
  placed: Node['attrs'] | null,
  body: Element,
): Element {
  return el('p:sp', {}, [
    el('p:nvSpPr', {}, [
      el('p:cNvPr', { id, name }),
      el('p:cNvSpPr', holder ? {} : { txBox: 1 }),
      el('p:nvPr', {}, [holder]),
    ]),
    el('p:spPr', {}, placed ? [place(placed), el('a:prstGeom', { prst: 'rect' }, [el('a:avLst')])] : []),
    body,
  ]);
}

function place(attrs: Node['attrs']): Element {
  const emu = (name: string): number => Number(attrs[name]) * EMU;
  return el('a:xfrm', {}, [
    el('a:off', { x: emu('x'), y: emu('y') }),
    el('a:ext', { cx: emu('width'), cy: emu('height') }),
  ]);
}
