import type { Node } from 'prosemirror-model';
import type { SlideView } from '../../kinds/deck/index.js';
import { SLIDE, slidesOf, titlePlace } from '../../kinds/deck/index.js';
import { blankDocument, textSchema } from '../../kinds/text/index.js';
import { OdtFlow } from '../odt/flow.js';
import { DECLARED as TEXT } from '../odt/names.js';
import { OdtNotes } from '../odt/notes.js';
import { fonts, manifestPart, metaPart, textStyles, usedStyles } from '../odt/parts.js';
import type { Element } from '../packed/xml.js';
import { el, printXml } from '../packed/xml.js';
import { pack } from '../packed/zip.js';
import type { Picture } from '../picture.js';
import { endingOf } from '../picture.js';
import type { WriteOptions } from '../writing.js';
import { CM, ODP, PRESENTATION } from './open-presentation.js';
import { SIZES } from './presentation.js';

const VERSION = { 'office:version': '1.2' };
const DECLARED = { ...TEXT, 'xmlns:presentation': PRESENTATION };
/** Names of the page, of its master, and of the styles of slides that are shown and hidden. */
const NAMES = { layout: 'Slide', master: 'Tide', shown: 'Shown', hidden: 'Hidden' } as const;

/** Writes a deck as an OpenDocument presentation (ODF 1.2, ISO/IEC 26300): slides in the order in which they are shown. */
export function writeOdp(
  deck: Node,
  { title, author, at, picture }: Pick<WriteOptions, 'title' | 'author' | 'at' | 'picture'>,
): Uint8Array {
  const blank = blankDocument();
  const flow = new OdtFlow(() => [], picture, new OdtNotes(blank, blank));
  const pictures = new Map<string, Picture>();
  const writer = new PageWriter(flow, (hash) => {
    const held = picture(hash);
    if (!held) return null;
    const name = `Pictures/${held.hash}.${endingOf(held)}`;
    pictures.set(name, held);
    return name;
  });
  const pages = slidesOf(deck).map((slide, i) => writer.page(slide, i + 1));
  const content = el('office:document-content', { ...DECLARED, ...VERSION }, [
    fonts(),
    el('office:automatic-styles', {}, [...usedStyles(flow), ...pageStyles()]),
    el('office:body', {}, [el('office:presentation', {}, pages)]),
  ]);
  const held = [...pictures];
  const listed = held.map(([name, { type }]) => [name, type] as const);
  return pack([
    { name: 'mimetype', content: ODP, stored: true },
    { name: 'content.xml', content: printXml(content) },
    { name: 'styles.xml', content: printXml(stylesPart()) },
    { name: 'meta.xml', content: printXml(metaPart(title, author, at)) },
    ...held.map(([name, { bytes }]) => ({ name, content: bytes })),
    { name: 'META-INF/manifest.xml', content: printXml(manifestPart(listed, ODP)) },
  ]);
}

/** Styles of slides (ODF 1.2 Part 1, 17.24, 20.342). */
function pageStyles(): Element[] {
  return (['shown', 'hidden'] as const).map((kind) =>
    el('style:style', { 'style:name': NAMES[kind], 'style:family': 'drawing-page' }, [
      el('style:drawing-page-properties', {
        'presentation:visibility': kind === 'hidden' ? 'hidden' : 'visible',
      }),
    ]),
  );
}

function stylesPart(): Element {
  const size = { 'fo:page-width': cm(SLIDE.width), 'fo:page-height': cm(SLIDE.height) };
  const page = { ...size, 'fo:margin': '0cm', 'style:print-orientation': 'landscape' };
  return el('office:document-styles', { ...DECLARED, ...VERSION }, [
    fonts(),
    el('office:styles', {}, textStyles(SIZES.text / 100, [SIZES.title / 100])),
    el('office:automatic-styles', {}, [
      el('style:page-layout', { 'style:name': NAMES.layout }, [el('style:page-layout-properties', page)]),
      ...pageStyles(),
    ]),
    el('office:master-styles', {}, [
      el('style:master-page', {
        'style:name': NAMES.master,
        'style:page-layout-name': NAMES.layout,
        'draw:style-name': NAMES.shown,
      }),
    ]),
  ]);
}

class PageWriter {
  constructor(
    private readonly flow: OdtFlow,
    private readonly named: (hash: string) => string | null,
  ) {}

  page({ node, hidden }: SlideView, number: number): Element {
    return el(
      'draw:page',
      {
        'draw:name': `Slide ${number}`,
        'draw:style-name': hidden ? NAMES.hidden : NAMES.shown,
        'draw:master-page-name': NAMES.master,
      },
      node.children.flatMap((child) => this.part(child, titlePlace(String(node.attrs['layout'])))),
    );
  }

  private part(node: Node, title: Record<string, number>): Element[] {
    switch (node.type.name) {
      case 'title': {
        const heading = textSchema.node('heading', { level: 1 }, node.children.map(asText));
        return [this.box([heading], { 'presentation:class': 'title', ...placed(title) })];
      }
      case 'box':
        return [this.box(node.children.map(asText), placed(node.attrs))];
      case 'frame':
        return this.frame(node);
      case 'notes':
        return [
          el('presentation:notes', {}, [
            this.box(node.children.map(asText), { 'presentation:class': 'notes', ...placed(title) }),
          ]),
        ];
      default:
        return [];
    }
  }

  /** A box with blocks of text in it. */
  private box(blocks: readonly Node[], attributes: Record<string, string>): Element {
    return el('draw:frame', attributes, [el('draw:text-box', {}, this.flow.blocks(blocks))]);
  }

  private frame({ attrs }: Node): Element[] {
    const name = this.named(String(attrs['hash']));
    if (name === null) return [];
    const link = { 'xlink:href': name, 'xlink:type': 'simple', 'xlink:show': 'embed' };
    return [
      el('draw:frame', placed(attrs), [
        el('draw:image', { ...link, 'xlink:actuate': 'onLoad' }),
        el('svg:desc', {}, [String(attrs['alt'])]),
      ]),
    ];
  }
}

/** What stands on a slide as a text has it: the blocks are the same. */
function asText(node: Node): Node {
  return textSchema.nodeFromJSON(node.toJSON());
}

/** Where the title stands: across the head of the slide. */

function placed(attrs: Readonly<Record<string, unknown>>): Record<string, string> {
  return Object.fromEntries(
    ['x', 'y', 'width', 'height'].map((name) => [`svg:${name}`, cm(Number(attrs[name]))]),
  );
}

function cm(units: number): string {
  return `${(units * CM).toFixed(3)}cm`;
}
